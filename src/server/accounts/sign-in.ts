import { createHash, createHmac, timingSafeEqual } from 'node:crypto';
import { cookieIn, cookieText } from '@/server/http';

/** How long someone stays signed in, in seconds. */
const sessionSeconds = 12 * 60 * 60;
/** Wrong secrets that are looked at in a minute; more are refused unseen. */
const maxTries = 20;
const minuteMs = 60_000;

/** Who is signed in, as they called themselves. */
export interface Session {
  name: string;
}

/**
 * One secret for all who work in the workbench, until there are accounts: who knows it gets a cookie that this server signed.
 * Sessions end with their time, or when the secret is another.
 */
export class SignIn {
  readonly #secret: Buffer;
  readonly #key: Buffer;
  readonly #secure: boolean;
  #tries: number[] = [];

  constructor(secret: string, { secure = false } = {}) {
    this.#secret = digest(secret);
    this.#key = digest(`session ${secret}`);
    this.#secure = secure;
  }

  /** The cookie of a new session for who knows the secret; `wrong` for who does not, `slow` when too many tried. Times in milliseconds. */
  open(name: string, secret: string, now: number): { cookie: string } | 'wrong' | 'slow' {
    this.#tries = this.#tries.filter((at) => Math.abs(now - at) < minuteMs);
    if (this.#tries.length >= maxTries) return 'slow';
    if (!timingSafeEqual(digest(secret), this.#secret)) {
      this.#tries.push(now);
      return 'wrong';
    }
    const content = JSON.stringify({ name: name.trim().slice(0, 60), until: now + sessionSeconds * 1000 });
    const body = Buffer.from(content).toString('base64url');
    return { cookie: this.#cookie(`${body}.${this.#sign(body)}`, sessionSeconds) };
  }

  /** A cookie that ends the session. */
  close(): string {
    return this.#cookie('', 0);
  }

  /** Whose request it is, by its `Cookie` header; null: nobody's who is signed in. */
  sessionOf(cookies: string | undefined, now: number): Session | null {
    const value = cookieIn('session', this.#secure, cookies);
    const [, body = '', given = ''] = /^([\w-]+)\.([\w-]+)$/.exec(value ?? '') ?? [];
    const [a, b] = [Buffer.from(given), Buffer.from(this.#sign(body))];
    if (!body || a.length !== b.length || !timingSafeEqual(a, b)) return null;
    const { name, until } = JSON.parse(Buffer.from(body, 'base64url').toString()) as { name: string; until: number };
    return until > now ? { name } : null;
  }

  #cookie(value: string, seconds: number): string {
    return cookieText('session', value, seconds, this.#secure);
  }

  #sign(body: string): string {
    return createHmac('sha256', this.#key).update(body).digest('base64url');
  }
}

const digest = (text: string): Buffer => createHash('sha256').update(text).digest();

const escaped = (text: string): string => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** Where whoever is not signed in says who they are. `wrong`: what was not right the last time. */
export function signInPage(to: string, wrong: string | null): string {
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Sign in · Last</title>
<style>
:root{color-scheme:light dark;--ground:#faf6ee;--text:#29231e;--line:#b9ae98;--leather:#84461c;--on:#fff}
@media(prefers-color-scheme:dark){:root{--ground:#211c18;--text:#f1e9dc;--line:#6d6254;--leather:#d99a63;--on:#211c18}}
body{margin:0;min-height:100vh;display:grid;place-items:center;background:var(--ground);color:var(--text);font:16px/1.5 system-ui,sans-serif}
main{width:min(22rem,calc(100vw - 3rem))}h1{font-size:1.5rem;margin:0 0 .25rem}p{margin:0 0 1.25rem}
label{display:block;margin:0 0 1rem;font-size:.95rem}input{display:block;box-sizing:border-box;width:100%;margin-top:.25rem;padding:.5rem .6rem;font:inherit;color:inherit;background:transparent;border:1px solid var(--line);border-radius:6px}
button{padding:.5rem 1.1rem;font:inherit;color:var(--on);background:var(--leather);border:0;border-radius:6px;cursor:pointer}
:focus-visible{outline:2px solid var(--leather);outline-offset:2px}[role=alert]{padding:.5rem .75rem;border:1px solid #b0122b;border-radius:6px}
</style></head><body><main>
<h1>Last</h1><p>The workbench of this shop. Ask whoever runs it for the secret.</p>
${wrong === null ? '' : `<p role="alert">${escaped(wrong)}</p>`}
<form method="post" action="/sign-in">
<input type="hidden" name="to" value="${escaped(to)}">
<label>Your name, as your colleagues see it beside your changes<input name="name" autocomplete="name" maxlength="60" required autofocus></label>
<label>Secret<input name="secret" type="password" autocomplete="current-password" required></label>
<button>Sign in</button>
</form></main></body></html>
`;
}

/** Where one goes on after signing in: a path of this workbench, and nowhere else. */
export const safeTarget = (to: string | null): string => (to && /^\/(?![/\\])[^\s\\]*$/.test(to) ? to : '/bench');

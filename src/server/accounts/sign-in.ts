import { createHmac, timingSafeEqual } from 'node:crypto';
import type { Right } from '@/contract/roles';
import { type Asking, cookieIn, cookieText } from '@/server/http';
import { signingKey } from '@/store';
import { isPassword } from './passwords';
import { Patience } from './patience';
import { type People, tokenBegins } from './people';
import { hashOfSecret, newSecret } from './secrets';

/** How long someone stays signed in, and how long without doing anything, in milliseconds. */
const sessionMs = 12 * 60 * 60 * 1000;
const idleMs = 2 * 60 * 60 * 1000;
/** That someone is here is written down this seldom, in milliseconds. */
const seenMs = 60_000;
/** A device that someone signed in on is known for so long, in seconds. */
const knownSeconds = 180 * 24 * 60 * 60;
/** A failed sign-in of one name stands in the log once in this time, in milliseconds. */
const failureMs = 60_000;

/** Signing in: sessions by cookie, tokens by header. Each request asks the store, so that what was ended has ended. */
export class SignIn {
  readonly #patience = new Patience();
  /** The same for the address that tries come from, whatever names they try. */
  readonly #fromOne = new Patience(50);
  /** When a failure of a name was written down last. */
  readonly #lastLogged = new Map<string, number>();
  readonly #secure: boolean;

  constructor(
    readonly people: People,
    { secure = false } = {},
  ) {
    this.#secure = secure;
  }

  /** The cookies of a new session for who knows the password of a name (`from`: the address that asks; '' where it is not known); `wrong` for who does not, else how long to wait, in milliseconds. */
  async open(
    { name, password, from }: { name: string; password: string; from: string },
    cookies: string | undefined,
  ): Promise<{ cookies: string[] } | 'wrong' | number> {
    const { people } = this;
    const account = people.accounts.named(name.trim());
    const key =
      account && this.#isKnown(account.id, cookies) ? `known ${account.id}` : `name ${name.trim().toLowerCase()}`;
    const now = people.now();
    const wait = Math.max(this.#patience.waitOf(key, now), this.#fromOne.waitOf(from, now));
    if (wait > 0) return wait;
    // Counted before it is looked at: many at once are as many tries.
    this.#patience.failed(key, now);
    if (from) this.#fromOne.failed(from, now);
    if (!(await isPassword(password, account?.password ?? null)) || !account) {
      this.#logFailure(account?.name ?? 'an unknown name');
      return 'wrong';
    }
    this.#patience.succeeded(key);
    this.#fromOne.succeeded(from);
    return { cookies: this.openFor(account.id) };
  }

  /** The cookies of a new session of an account: a new secret each time, whatever the browser had. */
  openFor(id: number): string[] {
    const { people } = this;
    const now = people.now();
    const { called, name } = people.of(id);
    const secret = newSecret();
    const until = new Date(now + sessionMs).toISOString();
    people.accounts.openSession(hashOfSecret(secret), id, new Date(now).toISOString(), until);
    people.log(called, 'sign-in', name);
    return [
      cookieText('session', secret, sessionMs / 1000, this.#secure),
      cookieText('known', this.#knows(id), knownSeconds, this.#secure),
    ];
  }

  /** Ends the session of a request; gives the cookie that says so. */
  close(cookies: string | undefined): string {
    const secret = cookieIn('session', this.#secure, cookies);
    if (secret) this.people.accounts.endSession(hashOfSecret(secret));
    return cookieText('session', '', 0, this.#secure);
  }

  /** Whose request it is, by its headers; null: nobody's who may be here. */
  who(headers: { cookie?: string | undefined; authorization?: string | undefined }): Asking | null {
    const bearer = /^Bearer (\S+)$/i.exec(headers.authorization ?? '')?.[1];
    return bearer === undefined ? this.#bySession(headers.cookie) : this.#byToken(bearer);
  }

  #bySession(cookies: string | undefined): Asking | null {
    const { people } = this;
    const secret = cookieIn('session', this.#secure, cookies);
    if (!secret) return null;
    const session = hashOfSecret(secret);
    const found = people.accounts.session(session);
    if (!found) return null;
    const now = people.now();
    const idle = now - Date.parse(found.seenAt);
    if (Date.parse(found.until) <= now || idle > idleMs) {
      people.accounts.endSession(session);
      return null;
    }
    if (Math.abs(idle) > seenMs) people.accounts.sessionSeen(session, found.accountId, new Date(now).toISOString());
    const { accountId: account, name, called, role } = found;
    return { account, name, called, role, rights: null, session };
  }

  #byToken(token: string): Asking | null {
    const { people } = this;
    const found = token.startsWith(tokenBegins) ? people.accounts.token(hashOfSecret(token)) : null;
    const now = people.now();
    if (!found || Date.parse(found.until) <= now) return null;
    if (found.seenAt === null || Math.abs(now - Date.parse(found.seenAt)) > seenMs)
      people.accounts.tokenSeen(found.id, new Date(now).toISOString());
    const { accountId: account, name, called, role } = found;
    return { account, name, called, role, rights: found.rights as Right[], session: '' };
  }

  #logFailure(name: string): void {
    const now = this.people.now();
    if (this.#lastLogged.get(name) !== undefined && now - (this.#lastLogged.get(name) ?? 0) < failureMs) return;
    if (this.#lastLogged.size > 1000) this.#lastLogged.clear();
    this.#lastLogged.set(name, now);
    this.people.log('', 'sign-in failed', name);
  }

  /** What a browser keeps that someone signed in with. */
  #knows(id: number): string {
    const key = signingKey(this.people.sql);
    return `${id}.${createHmac('sha256', key).update(`known device\n${id}`).digest('base64url')}`;
  }

  #isKnown(id: number, cookies: string | undefined): boolean {
    const given = Buffer.from(cookieIn('known', this.#secure, cookies) ?? '');
    const right = Buffer.from(this.#knows(id));
    return given.length === right.length && timingSafeEqual(given, right);
  }
}

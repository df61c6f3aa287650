import type { IncomingMessage, ServerResponse } from 'node:http';
import { newPassword } from '@/contract/accounts';
import type { Asking } from '@/server/http';
import { FirstRun } from './first-run';
import { lookPath } from './look';
import { oidcBack, oidcStart, Provider, type ProviderSettings } from './oidc';
import { comeInPage, firstRunPage, goOnPage, signInPage } from './pages';
import { People } from './people';
import { SignIn } from './sign-in';
import { tooEasy } from './strength';
import { fault } from '@/server/log';

/** Longest form that is read, in bytes. */
const maxForm = 4000;

const doors = ['/sign-in', '/sign-out', '/come-in', '/first-run', oidcStart, oidcBack] as const;
type DoorPath = (typeof doors)[number];

export const isDoor = (path: string): path is DoorPath => (doors as readonly string[]).includes(path);

/** Where one goes on after signing in: a path of this workbench, and nowhere else. */
export const safeTarget = (to: string | null): string => (to && /^\/(?![/\\])[^\s\\]*$/.test(to) ? to : '/bench');

/** How the door answers: a page, or the way on with what the browser is to keep. */
type Answer = { status: number; html: string; cookies?: string[] } | { to: string; cookies: string[] };

/** The way into a workbench that others can reach: who is there, and the forms by which one comes in and leaves. */
export class Door {
  readonly signIn: SignIn;
  readonly firstRun: FirstRun;

  readonly #provider: Provider | null;

  constructor(
    readonly people: People,
    { secure = false, provider = null }: { secure?: boolean; provider?: ProviderSettings | null } = {},
  ) {
    this.#provider = provider && new Provider(provider, people, secure);
    this.signIn = new SignIn(people, { secure });
    this.firstRun = new FirstRun(people);
  }

  who(request: IncomingMessage): Asking | null {
    const { cookie, authorization } = request.headers;
    return this.signIn.who({ cookie, authorization });
  }

  /** The same by the headers of a request that was let in. */
  knows(headers: Pick<Headers, 'get'>): Asking | null {
    const given = (name: string) => headers.get(name) ?? undefined;
    return this.signIn.who({ cookie: given('cookie'), authorization: given('authorization') });
  }

  /** What is shown to whoever is not known, at an address of the workbench. */
  page(to: string): Answer {
    if (this.firstRun.isDue) return { status: 200, html: firstRunPage(null) };
    return { status: 200, html: this.#signInPage(to, null) };
  }

  /** Answers at one of its own addresses. `form` null: it is only looked at. */
  async answer(path: DoorPath, request: IncomingMessage, form: URLSearchParams | null): Promise<Answer> {
    const cookies = request.headers.cookie;
    const query = new URL(request.url ?? '/', 'http://last.invalid').searchParams;
    const text = (name: string) => form?.get(name) ?? '';
    if (path === '/sign-out' && form) return { to: '/sign-in', cookies: [this.signIn.close(cookies)] };
    if (path === '/come-in') {
      const link = text('link') || (query.get('link') ?? '');
      const account = this.people.linked(link);
      if (!form || !account)
        return { status: account ? 200 : 404, html: comeInPage(link, account?.called ?? null, null) };
      const password = newPassword.safeParse(text('password'));
      if (!password.success)
        return { status: 400, html: comeInPage(link, account.called, password.error.issues[0]?.message ?? '') };
      const easy = tooEasy(password.data, [account.name, account.called]);
      if (easy) return { status: 400, html: comeInPage(link, account.called, easy) };
      const used = await this.people.useLink(link, password.data);
      if (!used) return { status: 404, html: comeInPage(link, null, null) };
      return { to: '/bench', cookies: this.signIn.openFor(used.id) };
    }
    if (this.firstRun.isDue) {
      const given = { code: text('code'), name: text('name'), called: text('called'), password: text('password') };
      if (!form || path !== '/first-run') return this.page('/bench');
      const made = await this.firstRun.make(given);
      if (typeof made === 'string') return { status: 403, html: firstRunPage(made, given) };
      return { to: '/bench', cookies: this.signIn.openFor(made.id) };
    }
    if (this.#provider && path === oidcBack) return this.#back(this.#provider, request);
    if (this.#provider && path === oidcStart) return this.#begin(this.#provider, safeTarget(query.get('to')));
    const to = safeTarget(form?.get('to') ?? null);
    if (!form || path !== '/sign-in') return this.page(to);
    const name = text('name');
    const from = this.#from(request);
    const opened = await this.signIn.open({ name, password: text('password'), from }, cookies);
    if (opened === 'wrong')
      return { status: 403, html: this.#signInPage(to, 'This name and password do not go together.', name) };
    if (typeof opened === 'number') {
      const seconds = Math.ceil(opened / 1000);
      return {
        status: 429,
        html: this.#signInPage(to, `Too many wrong tries came. Wait ${seconds} s, then try again.`, name),
      };
    }
    // A form may lead to no other site, not even by way of this one: the page itself goes on.
    if (to.startsWith(lookPath)) return { status: 200, html: goOnPage(to), cookies: opened.cookies };
    return { to, cookies: opened.cookies };
  }

  #signInPage(to: string, wrong: string | null, name = ''): string {
    return signInPage(to, wrong, name, this.#provider?.settings.called ?? null);
  }

  async #begin(provider: Provider, to: string): Promise<Answer> {
    try {
      return await provider.begin(to);
    } catch (error) {
      fault(`${provider.settings.issuer} cannot be asked: ${(error as Error).message}`);
      const says = `${provider.settings.called} cannot be reached just now. Try again, or sign in with a password.`;
      return { status: 502, html: this.#signInPage(to, says) };
    }
  }

  async #back(provider: Provider, request: IncomingMessage): Promise<Answer> {
    const found = await provider.back(request.url ?? '/', request.headers.cookie);
    if (typeof found === 'string') return { status: 403, html: this.#signInPage('/bench', found) };
    // Whoever is sent on from another site has no cookie of this one with them: the page itself goes on.
    return { status: 200, html: goOnPage(found.to), cookies: this.signIn.openFor(found.account) };
  }

  /** The address that asks; '' behind a front server, where all come from one. */
  #from({ socket, headers }: IncomingMessage): string {
    return headers['x-forwarded-for'] === undefined ? (socket.remoteAddress ?? '') : '';
  }
}

/** The form of a request; null: it is longer than a form here can be. */
export async function formOf(request: IncomingMessage): Promise<URLSearchParams | null> {
  let text = '';
  for await (const part of request) {
    text += String(part);
    if (text.length > maxForm) return null;
  }
  return new URLSearchParams(text);
}

/** Sends what the door answers. */
export function sendAnswer(response: ServerResponse, answer: Answer, headers: Record<string, string>): void {
  if ('to' in answer) {
    response.writeHead(303, {
      ...headers,
      Location: answer.to,
      ...(answer.cookies.length ? { 'Set-Cookie': answer.cookies } : {}),
      'Cache-Control': 'no-store',
    });
    response.end();
    return;
  }
  response.writeHead(answer.status, {
    ...headers,
    ...(answer.cookies ? { 'Set-Cookie': answer.cookies } : {}),
    'Content-Type': 'text/html; charset=utf-8',
    'Cache-Control': 'no-store',
  });
  response.end(answer.html);
}

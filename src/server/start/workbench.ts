import { randomBytes } from 'node:crypto';
import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import { authorHeader } from '@/contract/shared';
import { type Addresses, soundAddress, workbenchGate, safetyHeaders } from '@/server/http';
import { safeTarget, signInPage, type SignIn } from '@/server/accounts';
import { goTo, knockOf } from '@/server/storefront';

interface Given {
  addresses: Addresses;
  token: string;
  development: boolean;
  /** Null: whoever reaches the workbench may work in it, as on one's own machine. */
  signIn: SignIn | null;
}

/** Longest form to sign in, in bytes. */
const maxForm = 4000;

/** Files that any screen needs, the same for all. */
const isScript = (path: string): boolean => path.startsWith('/_next/static/');

/** Answers for the workbench: what the gate lets in, from who is signed in, is Next's to answer, with the headers that hold for it. */
export function workbenchListener(
  next: (request: IncomingMessage, response: ServerResponse) => Promise<void>,
  { addresses, token, development, signIn }: Given,
): RequestListener {
  return (request, response) => {
    const url = request.url ?? '/';
    const path = url.split('?')[0] ?? '/';
    const signing = signIn !== null && path === '/sign-in';
    const refusal = workbenchGate(knockOf(request), addresses, signing ? null : token);
    if (refusal) return refuse(response, addresses, refusal.status, 'gate', refusal.message);
    const reads = request.method === 'GET' || request.method === 'HEAD';
    if (reads) {
      const to = addresses.moved(url);
      if (to) return goTo(response, to);
    }
    if (path.startsWith('/_next/image') || path === '/bench-frame.js')
      return refuse(response, addresses, 404, 'none', 'Nothing is here.');
    if (signIn) {
      if (signing && !reads) return void open(signIn, request, response);
      const session = signIn.sessionOf(request.headers.cookie, Date.now());
      if (path === '/sign-out') return leave(response, [signIn.close()], '/sign-in');
      if (signing || (!session && !path.startsWith('/api/') && reads && !isScript(path)))
        return page(response, signing ? '/bench' : url, null);
      if (!session)
        return refuse(response, addresses, 401, 'sign-in', 'You are not signed in any more: load the page again.');
      // Who changes something is who signed in, whatever the request says.
      request.headers[authorHeader] = encodeURIComponent(session.name);
    }
    const nonce = randomBytes(16).toString('base64');
    const headers = safetyHeaders(path.startsWith('/api/') ? 'data' : 'workbench', { addresses, nonce, development });
    for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
    // Next reads the nonce for its own scripts from here.
    if (!isScript(path)) request.headers['content-security-policy'] = headers['Content-Security-Policy'];
    request.url = soundAddress(url);
    void next(request, response);
  };

  function page(response: ServerResponse, to: string, wrong: string | null): void {
    response.writeHead(wrong === null ? 200 : 403, {
      ...safetyHeaders('workbench', { addresses }),
      'Content-Type': 'text/html; charset=utf-8',
      'Cache-Control': 'no-store',
    });
    response.end(signInPage(to, wrong));
  }

  async function open(signIn: SignIn, request: IncomingMessage, response: ServerResponse): Promise<void> {
    let text = '';
    for await (const part of request) {
      text += String(part);
      if (text.length > maxForm) return refuse(response, addresses, 413, 'size', 'This form is too long.');
    }
    const form = new URLSearchParams(text);
    const to = safeTarget(form.get('to'));
    const opened = signIn.open(form.get('name') ?? '', form.get('secret') ?? '', Date.now());
    if (opened === 'wrong') return page(response, to, 'That is not the secret.');
    if (opened === 'slow')
      return page(response, to, 'Too many wrong secrets came in a short time. Wait a minute, then try again.');
    leave(response, [opened.cookie], to);
  }
}

function leave(response: ServerResponse, cookies: string[], to: string): void {
  response.writeHead(303, { Location: to, 'Set-Cookie': cookies, 'Cache-Control': 'no-store' });
  response.end();
}

function refuse(response: ServerResponse, addresses: Addresses, status: number, code: string, message: string): void {
  response.writeHead(status, {
    ...safetyHeaders('data', { addresses }),
    'Content-Type': 'application/json; charset=utf-8',
    Connection: 'close',
  });
  response.end(JSON.stringify({ code, message }));
}

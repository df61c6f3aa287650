import { randomBytes } from 'node:crypto';
import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import { authorHeader } from '@/contract/shared';
import {
  type Addresses,
  bearerGate,
  may,
  soundAddress,
  workbenchGate,
  safetyHeaders,
  whoHeader,
  writeWho,
} from '@/server/http';
import { type Door, formOf, isDoor, lookPath, type Looks, sendAnswer } from '@/server/accounts';
import { fault, idIn } from '@/server/log';
import { goTo, knockOf } from '@/server/storefront';

interface Given {
  addresses: Addresses;
  token: string;
  development: boolean;
  /** Null: whoever reaches the workbench may work in it, as on one's own machine. */
  door: Door | null;
  /** Gives passes for drafts; null where nobody needs one. */
  looks?: Looks | null;
}

/** Files that any screen needs, the same for all. */
const isScript = (path: string): boolean => path.startsWith('/_next/static/');

/** Answers for the workbench: what the gate lets in, from who is signed in, is Next's to answer, with the headers that hold for it. */
export function workbenchListener(
  next: (request: IncomingMessage, response: ServerResponse) => Promise<void>,
  { addresses, token, development, door, looks = null }: Given,
): RequestListener {
  return (request, response) => {
    const url = request.url ?? '/';
    const path = url.split('?')[0] ?? '/';
    const opens = door !== null && isDoor(path) ? path : null;
    // Any other authorization a browser may add by itself, for a page of another site too.
    const bearer =
      door !== null && path.startsWith('/api/') && /^Bearer \S+$/i.test(request.headers.authorization ?? '');
    const refusal = bearer
      ? bearerGate(knockOf(request), addresses)
      : workbenchGate(knockOf(request), addresses, opens ? null : token);
    if (refusal) return refuse(response, addresses, refusal.status, 'gate', refusal.message);
    const reads = request.method === 'GET' || request.method === 'HEAD';
    if (reads) {
      const to = addresses.moved(url);
      if (to) return goTo(response, to);
    }
    if (path.startsWith('/_next/image') || path === '/bench-frame.js')
      return refuse(response, addresses, 404, 'none', 'Nothing is here.');
    // Who asks is for the server to say.
    delete request.headers[whoHeader];
    if (door) {
      if (opens) return void atDoor(door, opens, request, response, reads);
      // A token is for calls: pages are for who signed in.
      if (!bearer) delete request.headers.authorization;
      const who = door.who(request);
      if (!who && !path.startsWith('/api/') && reads && !isScript(path))
        return sendAnswer(response, door.page(url), safetyHeaders('workbench', { addresses }));
      if (!who)
        return refuse(response, addresses, 401, 'sign-in', 'You are not signed in any more: load the page again.');
      if (looks && path === lookPath) {
        const to = looks.passTo(new URL(url, 'http://last.invalid').searchParams.get('to'), may(who, 'source'));
        if (!to) return refuse(response, addresses, 404, 'look', 'That is no page of a draft or a release here.');
        return sendAnswer(response, { to, cookies: [] }, { 'Referrer-Policy': 'no-referrer' });
      }
      request.headers[whoHeader] = writeWho(who);
      // Who changes something is who signed in, whatever the request says.
      request.headers[authorHeader] = encodeURIComponent(who.called);
    }
    const nonce = randomBytes(16).toString('base64');
    const headers = safetyHeaders(path.startsWith('/api/') ? 'data' : 'workbench', { addresses, nonce, development });
    for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
    // Next reads the nonce for its own scripts from here.
    if (!isScript(path)) request.headers['content-security-policy'] = headers['Content-Security-Policy'];
    request.url = soundAddress(url);
    void next(request, response);
  };

  async function atDoor(
    door: Door,
    path: Parameters<Door['answer']>[0],
    request: IncomingMessage,
    response: ServerResponse,
    reads: boolean,
  ): Promise<void> {
    try {
      const form = reads ? null : await formOf(request);
      if (!reads && !form) return refuse(response, addresses, 413, 'size', 'This form is too long.');
      sendAnswer(response, await door.answer(path, request, form), safetyHeaders('workbench', { addresses }));
    } catch (error) {
      const { status = 500, message } = error as { status?: number; message: string };
      if (status >= 500) fault(error as Error, idIn(request));
      refuse(response, addresses, status, 'door', status === 500 ? 'Last failed at this. Try again.' : message);
    }
  }
}

function refuse(response: ServerResponse, addresses: Addresses, status: number, code: string, message: string): void {
  response.writeHead(status, {
    ...safetyHeaders('data', { addresses }),
    'Content-Type': 'application/json; charset=utf-8',
    Connection: 'close',
  });
  response.end(JSON.stringify({ code, message }));
}

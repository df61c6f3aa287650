import { randomBytes } from 'node:crypto';
import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import type { Addresses } from './addresses';
import { soundAddress, workbenchGate } from './gate';
import { safetyHeaders } from './headers';
import { goTo, knockOf } from './site';

interface Given {
  addresses: Addresses;
  token: string;
  development: boolean;
}

/** Files that any screen needs, the same for all. */
const isScript = (path: string): boolean => path.startsWith('/_next/static/');

/** Answers for the workbench: what the gate lets in is Next's to answer, with the headers that hold for it. */
export function workbenchListener(
  next: (request: IncomingMessage, response: ServerResponse) => Promise<void>,
  { addresses, token, development }: Given,
): RequestListener {
  return (request, response) => {
    const refusal = workbenchGate(knockOf(request), addresses, token);
    const url = request.url ?? '/';
    if (refusal) return refuse(response, addresses, refusal.status, refusal.message);
    const path = url.split('?')[0] ?? '/';
    if (request.method === 'GET' || request.method === 'HEAD') {
      const to = addresses.moved(url);
      if (to) return goTo(response, to);
    }
    if (path.startsWith('/_next/image') || path === '/bench-frame.js')
      return refuse(response, addresses, 404, 'Nothing is here.');
    const nonce = randomBytes(16).toString('base64');
    const headers = safetyHeaders(path.startsWith('/api/') ? 'data' : 'workbench', { addresses, nonce, development });
    for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
    // Next reads the nonce for its own scripts from here.
    if (!isScript(path)) request.headers['content-security-policy'] = headers['Content-Security-Policy'];
    request.url = soundAddress(url);
    void next(request, response);
  };
}

function refuse(response: ServerResponse, addresses: Addresses, status: number, message: string): void {
  response.writeHead(status, {
    ...safetyHeaders('data', { addresses }),
    'Content-Type': 'application/json; charset=utf-8',
    Connection: 'close',
  });
  response.end(JSON.stringify({ code: 'gate', message }));
}

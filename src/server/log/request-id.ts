import { randomUUID } from 'node:crypto';
import type { IncomingMessage } from 'node:http';

/** Names a request from a front server through to the log. */
export const requestIdHeader = 'x-request-id';

/** The id that a request carries; null: none, as where answers are not noted. */
export function idIn({ headers }: Pick<IncomingMessage, 'headers'>): string | null {
  const id = headers[requestIdHeader];
  return typeof id === 'string' ? id : null;
}

/** The id that a request came with, where it can be one; else a new one. From then on the request carries it. */
export function idOf({ headers }: Pick<IncomingMessage, 'headers'>): string {
  const given = headers[requestIdHeader];
  if (typeof given === 'string' && /^[\w-]{8,64}$/.test(given)) return given;
  const id = randomUUID();
  headers[requestIdHeader] = id;
  return id;
}

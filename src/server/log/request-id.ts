import { randomUUID } from 'node:crypto';
import type { IncomingMessage } from 'node:http';

/** Names a request from a front server through to the log. */
export const requestIdHeader = 'x-request-id';

/** The id that a request carries; null: none, as where answers are not noted. */
export function idIn({ headers }: Pick<IncomingMessage, 'headers'>): string | null {
  const id = headers[requestIdHeader];
  return typeof id === 'string' ? id : null;
}

const own = randomUUID().slice(0, 13);
let count = 0;
/** Ids of this process: what no other has, and a number. One of random bits alone takes as long as all else that is noted of a kept page. */
const newId = (): string => `${own}-${(count++).toString(36)}`;

/** The id that a request came with, where it can be one; else a new one. From then on the request carries it. */
export function idOf({ headers }: Pick<IncomingMessage, 'headers'>): string {
  const given = headers[requestIdHeader];
  if (typeof given === 'string' && /^[\w-]{8,64}$/.test(given)) return given;
  const id = newId();
  headers[requestIdHeader] = id;
  return id;
}

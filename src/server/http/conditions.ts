import { createHash } from 'node:crypto';

/** A strong ETag (RFC 9110, 8.8.3) of these bytes. */
export function etagOf(bytes: string | Uint8Array): string {
  return `"${createHash('sha256').update(bytes).digest('base64url').slice(0, 27)}"`;
}

/** An entity tag of a list: weak or strong (RFC 9110, 8.8.3). */
const tag = /^(W\/)?"[\x21\x23-\x7e\x80-\xff]*"$/;

const listed = (header: string): string[] => header.split(',').map((one) => one.trim());

/** Whether `If-Match` and `If-None-Match` can be read: `*`, or entity tags with commas between. */
export const isCondition = (header: string): boolean =>
  header.trim() === '*' || listed(header).every((one) => tag.test(one));

/** Whether an `If-None-Match` names this ETag (weak comparison, RFC 9110, 13.1.2). */
export function matches(ifNoneMatch: string | null, etag: string): boolean {
  if (!ifNoneMatch) return false;
  return listed(ifNoneMatch).some((one) => one === '*' || one.replace(/^W\//, '') === etag);
}

/**
 * Whether what a writing request asks for may be done, by its conditions (RFC 9110, 13.1.1 and 13.1.2).
 *
 * @param etag of what is there, strong; null: nothing is
 */
export function mayWrite(etag: string | null, ifMatch: string | null, ifNoneMatch: string | null): boolean {
  if (etag === null) return !ifMatch;
  // By the strong comparison: a weak tag is never the same.
  if (ifMatch && !listed(ifMatch).some((one) => one === '*' || one === etag)) return false;
  return !matches(ifNoneMatch, etag);
}

/** An entity tag of a list: weak or strong (RFC 9110, 8.8.3). */
const tag = /^(W\/)?"[\x21\x23-\x7e\x80-\xff]*"$/;

const listed = (header: string): string[] => header.split(',').map((one) => one.trim());

/** Whether `If-Match` and `If-None-Match` can be read: `*`, or entity tags with commas between. */
export const isCondition = (header: string): boolean =>
  header.trim() === '*' || listed(header).every((one) => tag.test(one));

/**
 * Whether what a writing request asks for may be done, by its conditions (RFC 9110, 13.1.1 and 13.1.2).
 *
 * @param etag of what is there, strong; null: nothing is
 */
export function mayWrite(etag: string | null, ifMatch?: string | null, ifNoneMatch?: string | null): boolean {
  // By the strong comparison: a weak tag is never the same.
  if (ifMatch?.trim()) {
    if (etag === null) return false;
    if (ifMatch.trim() !== '*' && !listed(ifMatch).includes(etag)) return false;
  }
  if (!ifNoneMatch?.trim() || etag === null) return true;
  return (
    ifNoneMatch.trim() !== '*' &&
    !listed(ifNoneMatch)
      .map((one) => one.replace(/^W\//, ''))
      .includes(etag)
  );
}

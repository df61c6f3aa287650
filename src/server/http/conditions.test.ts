import { describe, expect, it } from 'vitest';
import { isCondition, mayWrite } from './conditions';

/** The rules of RFC 9110, 13.1.1 (If-Match: strong comparison) and 13.1.2 (If-None-Match: weak comparison), as a table. */
describe('conditions of a request that writes', () => {
  it.each<[what: string, etag: string | null, ifMatch: string | null, ifNoneMatch: string | null, may: boolean]>([
    ['none', '"a"', null, null, true],
    ['none, and nothing is there', null, null, null, true],
    ['If-Match: * where something is', '"a"', '*', null, true],
    ['If-Match: * where nothing is', null, '*', null, false],
    ['If-Match, the same', '"a"', '"a"', null, true],
    ['If-Match, one of several', '"b"', '"a", "b"', null, true],
    ['If-Match, another', '"b"', '"a"', null, false],
    ['If-Match, and nothing is there', null, '"a"', null, false],
    ['If-Match, a weak one is never the same', '"a"', 'W/"a"', null, false],
    ['If-None-Match: * where something is', '"a"', null, '*', false],
    ['If-None-Match: * where nothing is', null, null, '*', true],
    ['If-None-Match, the same', '"a"', null, '"a"', false],
    ['If-None-Match, the same but weak', '"a"', null, 'W/"a"', false],
    ['If-None-Match, others', '"c"', null, '"a", "b"', true],
    ['both hold', '"a"', '"a"', '"b"', true],
    ['the first holds, the second does not', '"a"', '"a"', '"a"', false],
  ])('%s', (_, etag, ifMatch, ifNoneMatch, may) => expect(mayWrite(etag, ifMatch, ifNoneMatch)).toBe(may));

  it.each([
    ['*', true],
    ['"a"', true],
    ['W/"a", "b"', true],
    ['"a" "b"', false],
    ['a', false],
    ['*, "a"', false],
  ])('%s can be read: %s', (header, can) => expect(isCondition(header)).toBe(can));
});

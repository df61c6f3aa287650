import { describe, expect, it } from 'vitest';
import { pager } from './pager';
import { pathOf, readPath } from '@/core/address/route';

describe('reading addresses', () => {
  const table: [path: string, expected: string | null][] = [
    ['/', 'home '],
    ['/product/oak-horn-cleat', 'product oak-horn-cleat'],
    ['/product/oak-horn-cleat/', 'product oak-horn-cleat'],
    ['/product', null],
    ['/product/a/b', null],
    ['/category/rope', 'category rope'],
    ['/listing/all', 'listing all'],
    ['/listing/search', 'listing search'],
    ['/listing/offer', 'listing offer'],
    ['/listing/offer/x', null],
    ['/listing/tag/gift', 'listing tag/gift'],
    ['/listing/brand/tidelamp', 'listing brand/tidelamp'],
    ['/listing/tag', null],
    ['/listing/other/x', null],
    ['/listing/all/x', null],
    ['/content/care', 'content care'],
    ['/nothing/here', null],
    ['/product/%E0%A4%A', null],
    ['/product/%C3%A9', 'product é'],
  ];
  for (const [path, expected] of table) {
    it(path, () => {
      const subject = readPath(path);
      expect(subject && `${subject.kind} ${subject.slug}`).toBe(expected);
      if (subject) expect(readPath(pathOf(subject))).toEqual(subject);
    });
  }
});

describe('the pager', () => {
  const shown = (page: number, pages: number) =>
    pager(page, pages)
      .map((item) =>
        item.kind === 'gap'
          ? '…'
          : item.kind === 'previous'
            ? '<'
            : item.kind === 'next'
              ? '>'
              : item.current
                ? `[${item.page}]`
                : String(item.page),
      )
      .join(' ');
  const table: [page: number, pages: number, expected: string][] = [
    [1, 1, ''],
    [1, 2, '[1] 2 >'],
    [2, 2, '< 1 [2]'],
    [1, 3, '[1] 2 3 >'],
    [5, 10, '< 1 … 4 [5] 6 … 10 >'],
    [3, 10, '< 1 2 [3] 4 … 10 >'],
    [4, 10, '< 1 2 3 [4] 5 … 10 >'],
    [10, 10, '< 1 … 9 [10]'],
    [8, 10, '< 1 … 7 [8] 9 10 >'],
  ];
  for (const [page, pages, expected] of table)
    it(`page ${page} of ${pages}`, () => expect(shown(page, pages)).toBe(expected));
});

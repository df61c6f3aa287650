import { describe, expect, it } from 'vitest';
import { demoPictures, withyQuay } from '../../../demo/catalogue';
import { springWork } from '../../../demo/spring';
import { historyOf } from '@/server/drafts/history';
import { Shop } from '@/server/shop/shop';
import { draftOf } from '@/server/shop/states';
import { pageOf } from '@/server/storefront/page';
import { seed } from './seed';

const options = {
  catalogue: withyQuay,
  pictures: await demoPictures(),
  base: 'themes/quay-1.0',
  addOns: ['themes/quick-find-1.0'],
  own: 'themes/withy-quay',
  now: '2026-11-24T00:00:00.000Z',
};
const shop = new Shop(':memory:');
seed(shop, { ...options, work: springWork() });
const draft = draftOf(shop, 'spring');
const draftPage = (path: string) => pageOf(shop, draft, { path, query: {} });
const livePage = (path: string) => {
  const live = shop.themes.live();
  if (!live) throw new Error('nothing is live');
  return pageOf(shop, live, { path, query: {} });
};

describe('the draft that a newcomer lands in', () => {
  it('has three changes that can be undone, and the shop is live without them', () => {
    expect(historyOf(shop, draft).map(({ title }) => title)).toEqual([
      'A notice above the anchors',
      'Tiles say what a rope holds',
      'Alternates for load-rated goods, for books, and for finishes',
    ]);
    expect(livePage('/category/anchors').html).not.toContain('New anchors come in March');
    expect(livePage('/product/tarred-hemp-rope').html).not.toContain('Holds');
  });
  const shown: [what: string, path: string, text: RegExp][] = [
    ['an alternate by a rule on a tag', '/product/bronze-bow-shackle', /<p class="notice">Holds [\d.]+ kN<\/p>/],
    ['an alternate by a rule on a type', '/product/handbook-of-knots', /<section class="prose reading">/],
    ['an alternate by a pin', '/category/finishes', /<section class="note">/],
    ['an amendment', '/listing/all', /<p class="tile-summary">Holds [\d.]+ kN<\/p>/],
    ['a placement for one category', '/category/anchors', /<p class="notice">New anchors come in March/],
  ];
  it.each(shown)('%s', (_, path, text) => {
    const { html, status } = draftPage(path);
    expect([status, text.test(html), text.test(livePage(path).html)]).toEqual([200, true, false]);
  });
  it('and one problem to fix, which the bar counts and whose fix is certain', () => {
    const problems = shop.theme(draft).theme.checkAll();
    expect(problems.map(({ file, line, code, severity }) => `${file}:${line} ${severity} ${code}`)).toEqual([
      'product/load-rated.html:4 error field',
    ]);
    expect(problems[0]?.fix?.edits.map(({ text }) => text)).toEqual(['diameter']);
  });
  it('nothing is wrong with what is live', () => {
    const live = shop.themes.live();
    expect(live && shop.theme(live).theme.checkAll()).toEqual([]);
  });
  it('is left as it is when it is filled already', () => expect(seed(shop, options)).toBe(false));
});

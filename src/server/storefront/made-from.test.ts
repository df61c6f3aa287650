import { beforeAll, describe, expect, it } from 'vitest';
import { seeded } from '@/core/language/testing/seeded';
import { localePrefix, pathOf } from '@/core/address';
import { saveFiles } from '@/server/drafts';
import { saveRecords } from '@/server/records';
import { type PageAsk, type Shop, stateOf } from '@/server/shop';
import { changeGoods } from '@/server/testing/change-goods';
import { demoShop } from '@/server/testing/demo-shop';
import { findSubjects, RecordReader } from '@/store';
import { everyPage, SentPages } from './groups';
import { madeFrom, stillHolds, type PageReads } from './made-from';
import { pageOf } from './page';
import { pageKey, readyPage } from './storefront';

let shop: Shop;
let asks: PageAsk[];
beforeAll(() => {
  shop = demoShop();
  const { locales } = shop.catalogue().shop();
  const subjects = findSubjects(shop.sql, '', null, 1000).filter(({ kind }) => kind !== 'cart');
  const queries = [{}, {}, {}, { sort: 'price' }, { sort: 'name', view: 'list' }, { in_stock: 'yes' }, { page: '2' }];
  asks = subjects.flatMap((one, at) =>
    locales.map((locale) => ({
      path: localePrefix(locale, locales) + pathOf(one),
      query: { ...queries[at % queries.length] } as Record<string, string>,
    })),
  );
  for (const [at, q] of ['rope', 'lamp brass', 'a', 'oil', 'zzz', 'co', 'corde'].entries())
    for (const base of ['', '/fr'])
      asks.push({ path: `${base}/listing/search`, query: { q, sort: at % 2 ? 'price' : 'match' } });
});

const chance = seeded(9111);
const { one } = chance;

const live = () => stateOf(shop, 'live');
function made(ask: PageAsk): { html: string; from: string | null } {
  const reads: PageReads = { theme: new Set(), goods: new Set() };
  const { html } = pageOf(shop, live(), { ...ask, reads: reads.theme, goods: reads.goods });
  return { html, from: madeFrom(shop, live(), reads) };
}
const plainly = (ask: PageAsk): string => pageOf(shop, live(), ask).html;

/** More of them where someone has the time: LAST_CHANGES=5000 takes half an hour. */
const rounds = Array.from({ length: Number(process.env.LAST_CHANGES ?? 100) / 100 }, (_, at) => at + 1);

describe('what a page was made from', () => {
  it.each(rounds)(
    'misses no page over a hundred random changes of the goods, and makes few again needlessly (%i)',
    async () => {
      shop = demoShop();
      const sent = new SentPages();
      const send = (ask: PageAsk) => {
        const page = made(ask);
        const groups = [...sent.groupsFor(page).matchAll(/[\w-]+/g)].map(String);
        return { ...page, groups, isDropped: false };
      };
      const pages = new Map(asks.map((ask) => [ask, send(ask)] as const));
      expect(await sent.changed(() => shop)).toEqual([everyPage]);
      for (const [ask, { html, from }] of pages)
        expect([ask.path, html === plainly(ask), from !== null]).toEqual([ask.path, true, true]);
      const missed: string[] = [];
      const tally = { looked: 0, differ: 0, needless: 0, dropped: 0, changes: 0 };
      for (let tries = 0; tries < 400 && tally.changes < 100; tries++) {
        const what = changeGoods(shop, chance);
        if (what === null) continue;
        tally.changes++;
        // Caches hear what several changes have changed at once.
        const isTold = tally.changes % 4 === 0;
        const said = new Set(isTold ? await sent.changed(() => shop) : []);
        for (const page of pages.values()) page.isDropped ||= page.groups.some((of) => said.has(of));
        for (let times = 0; times < 40; times++) {
          const ask = one(asks);
          const before = pages.get(ask);
          if (!before) continue;
          const holds = before.from !== null && stillHolds(shop, live(), before.from);
          const now = plainly(ask);
          tally.looked++;
          if (now !== before.html) tally.differ++;
          else if (!holds) tally.needless++;
          if (holds && now !== before.html) missed.push(`${ask.path} after ${what}`);
          if (isTold && !before.isDropped && now !== before.html) missed.push(`${ask.path} in a cache, after ${what}`);
          if (before.isDropped && holds) tally.dropped++;
          if (!holds || before.isDropped) pages.set(ask, send(ask));
        }
      }
      expect(missed).toEqual([]);
      expect(tally.changes).toBe(100);
      expect(tally.differ).toBeGreaterThan(100);
      // What two pages were made of before and after a change may be dropped though one of them is right.
      expect(tally.dropped).toBeLessThan(tally.looked / 10);
      // About one in eleven of all: lists of which a page shows a part.
      expect(tally.needless).toBeLessThan(tally.looked / 8);
    },
  );

  it('holds across releases where only what a page did not read differs', () => {
    // Renamed fields have changed the draft by now.
    shop = demoShop();
    const ask = { path: '/product/deck-oil', query: {} };
    const { from } = made(ask);
    const draft = stateOf(shop, 'draft/spring');
    const holds = () => from !== null && stillHolds(shop, stateOf(shop, 'draft/spring'), from);
    saveFiles(shop, draft, [{ path: 'content/other.html', text: '<p>Other</p>\n', expected: null }]);
    expect(holds()).toBe(true);
    saveFiles(shop, draft, [{ path: 'pieces/stock.html', text: '<p>Other</p>\n', expected: null }]);
    expect(holds()).toBe(false);
  });

  it('spares the pages that a changed price is not on, and no other', async () => {
    shop = demoShop();
    const show = async (path: string) => {
      const catalogue = shop.catalogue();
      const origin = 'http://withy.example';
      const key = pageKey(shop, live(), catalogue, { path, search: '', origin, has: 0 });
      const page = await readyPage(shop, live(), { path, query: {}, origin, cart: { lines: [] } }, key);
      return Buffer.from(page.bytes).toString();
    };
    const paths = [...new Set(asks.map(({ path }) => path))];
    const before = new Map<string, string>();
    for (const path of paths) before.set(path, await show(path));
    expect(shop.pages.counts).toEqual({ made: paths.length, again: 0, same: 0 });
    const reader = new RecordReader(shop.catalogue());
    const was = reader.read('product', ['deck-oil']).get('deck-oil') ?? {};
    const variants = was.variants as { price: number }[];
    const after = { ...was, variants: variants.map((of) => ({ ...of, price: 9900 })) };
    saveRecords(shop, [{ kind: 'product', slug: 'deck-oil', before: was, after }], {
      ...{ title: 'A price', at: '2026-11-30T10:00:00.000Z', by: 'Robin' },
    });
    let differ = 0;
    for (const path of paths) {
      const now = await show(path);
      if (now !== before.get(path)) differ++;
      expect([path, now]).toEqual([
        path,
        pageOf(shop, live(), { path, query: {}, origin: 'http://withy.example', cart: { lines: [] } }).html,
      ]);
    }
    expect(differ).toBeGreaterThan(2);
    const { made: first, again, same } = shop.pages.counts;
    expect(first).toBe(paths.length);
    expect(again).toBeLessThanOrEqual(2 * differ);
    expect(again + same).toBe(paths.length);
  });
});

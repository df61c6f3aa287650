import { describe, expect, it } from 'vitest';
import { Columns, ListingIndex, type ListingSort } from '@/core/catalogue';
import { seeded } from '@/core/language/testing/seeded';
import { saveRecords } from '@/server/records';
import type { Shop } from '@/server/shop';
import { changeGoods } from '@/server/testing/change-goods';
import { demoShop } from '@/server/testing/demo-shop';
import { asCustomersSee, findSubjects, RecordReader } from '.';
import { indexRows } from './index-rows';

const title = { title: 'A change', at: '2026-11-30T10:00:00.000Z', by: 'Robin' };
const splits = [null, { option: 'colour', pictures: 0 }, { option: 'colour', pictures: 1, values: ['navy', 'white'] }];
const sorts: ListingSort[] = ['chosen', 'price', 'price-down', 'newest', 'name'];

/** What an index answers to questions of every kind. */
function answers(shop: Shop, index: ListingIndex, locale: string): string {
  const names = { locale, all: () => shop.catalogue(locale === 'en' ? null : locale).names() };
  const all = { offset: 0, limit: 1000, names };
  const chosen = { options: {}, tags: [], brands: [], prices: [[1000, 5000] as [number, number]], inStock: true };
  return JSON.stringify([
    ...sorts.map((sort) => index.list({ filter: {}, sort, ...all })),
    index.list({ filter: {}, sort: 'price', chosen, ...all }),
    [...Object.entries(index.counts({ filter: {} }, chosen))].map(([key, of]) => [
      key,
      of instanceof Map
        ? [...of].map(([one, count]) => [one, count instanceof Map ? [...count] : count])
        : (of as unknown),
    ]),
  ]);
}

describe('indexes of listings', () => {
  it('answer after any change as one made from all of the goods does, and are kept where prices and stock alone change', () => {
    const shop = demoShop();
    const chance = seeded(77);
    const slugs = findSubjects(shop.sql, '', 'product', 1000).map(({ slug }) => slug);
    let [patched, changes] = [0, 0];
    // One product is kept out of live: customers have indexes of their own.
    const hide = new RecordReader(shop.catalogue()).read('product', ['deck-oil']).get('deck-oil') ?? {};
    saveRecords(shop, [{ kind: 'product', slug: 'deck-oil', before: hide, after: { ...hide, live: false } }], title);
    for (let round = 0; round < 120; round++) {
      const before = shop.catalogue().index(null).columns;
      const isPrice = chance.random(3) > 0;
      if (isPrice) {
        const slug = chance.one(slugs) ?? '';
        const was = new RecordReader(shop.catalogue()).read('product', [slug]).get(slug);
        if (!was) continue;
        const variants = (was.variants as { price: number; stock: number }[]).map((one) =>
          chance.random(2)
            ? { ...one, price: 100 + chance.random(9000), wasPrice: null }
            : { ...one, stock: chance.random(3) },
        );
        saveRecords(shop, [{ kind: 'product', slug, before: was, after: { ...was, variants } }], title);
      } else if (changeGoods(shop, chance) === null) continue;
      changes++;
      const now = shop.catalogue();
      if (now.index(null).columns !== before && now.index(null).columns.shape === before.shape) patched++;
      else if (isPrice) expect(now.index(null).columns).toBe(before);
      const split = splits[round % splits.length] ?? null;
      const idOf = (slug: string) => now.productBySlug(slug)?.id;
      const locale = round % 2 ? 'en' : 'fr';
      for (const live of [false, true]) {
        const whole = new ListingIndex(new Columns(indexRows(shop.sql, live)), split, idOf);
        const kept = (live ? asCustomersSee(now) : now).index(split);
        if (live && !now.hidden()) continue;
        expect([round, answers(shop, kept as ListingIndex, locale)]).toEqual([round, answers(shop, whole, locale)]);
      }
    }
    expect(changes).toBeGreaterThan(90);
    expect(patched).toBeGreaterThan(50);
  });
});

import { expect, it } from 'vitest';
import { Shop, stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { PageReads } from './page-reads';

it('keeps what pages were made from, each set once, whatever the order', () => {
  const reads = new PageReads();
  expect(reads.get('/')).toBeNull();
  const first = reads.put('/', ['template layouts/shop', 'look']);
  expect(reads.put('/cart', ['look', 'template layouts/shop'])).toBe(first);
  const other = reads.put('/product/deck-oil', ['look']);
  expect([reads.get('/cart'), reads.get('/product/deck-oil'), reads.size]).toEqual([first, other, 3]);
  expect(reads.readsOf(first).sort()).toEqual(['look', 'template layouts/shop']);
});

it('is another for another shop, state or day', () => {
  const shop = demoShop();
  const live = stateOf(shop, 'live');
  const reads = PageReads.of(shop, live, '2026-11-30');
  expect(PageReads.of(shop, live, '2026-11-30')).toBe(reads);
  expect(PageReads.of(shop, live, '2026-12-01')).not.toBe(reads);
  expect(PageReads.of(shop, { ...live, revision: live.revision + 1 }, '2026-11-30')).not.toBe(reads);
  expect(PageReads.of(demoShop([], null, new Shop(':memory:')), live, '2026-11-30')).not.toBe(reads);
});

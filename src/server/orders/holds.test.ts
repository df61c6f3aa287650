import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { answerCall } from '@/server/api';
import { feed } from '@/server/feed';
import type { Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { makeOrder } from '@/server/testing/orders';
import { Carts, Feeds, type HoldRule, OrderHolds, StoredCatalogue } from '@/store';

const global = globalThis as { lastShop?: unknown };
const at = '2026-11-30T10:00:00.000Z';
let shop: Shop;
let sku: string;
let product: string;
let stock: number;
beforeEach(() => {
  shop = demoShop();
  global.lastShop = shop;
  const one = [...new Feeds(shop.sql).figures()].find((of) => of.stock > 9);
  if (!one) throw new Error('Nothing is in stock');
  ({ sku, product, stock } = one);
});
afterEach(() => {
  delete global.lastShop;
});

const holds = () => new OrderHolds(shop.sql);
/** What pages show as in stock. */
function shown(): number {
  const source = new StoredCatalogue(shop.sql);
  const { id = 0 } = source.productBySlug(product) ?? {};
  return source.variants([id]).find((one) => one.sku === sku)?.stock ?? NaN;
}
const sent = () => [...new Feeds(shop.sql).figures()].find((one) => one.sku === sku)?.stock;
function order(rule: HoldRule, quantity = 3): number {
  holds().setRule(rule);
  const number = makeOrder(shop, 'a@example.org', at, [['It', sku, quantity, 100]]);
  const { lines } = new Carts(shop.carts).ordered(`token of a@example.org ${at}`, number)?.body ?? { lines: [] };
  shop.themes.transaction(() => holds().hold(number, lines, at));
  return number;
}
const set = async (number: number, state: string, was: string): Promise<void> => {
  const request = {
    method: 'POST',
    body: JSON.stringify({ state, was }),
    headers: { 'Content-Type': 'application/json' },
  };
  expect((await answerCall(new Request(`http://127.0.0.1/api/orders/${number}/state`, request))).status).toBe(200);
};

describe('stock that orders hold', () => {
  it('is out of stock for others, and back where the order is cancelled', async () => {
    const before = shop.catalogue().revision;
    const number = order('taken');
    expect([shown(), sent()]).toEqual([stock - 3, stock]);
    expect(shop.catalogue().revision).toBe(before + 1);
    await set(number, 'cancelled', 'new');
    expect([shown(), sent()]).toEqual([stock, stock]);
    // Put back, it is held again.
    await set(number, 'new', 'cancelled');
    expect(shown()).toBe(stock - 3);
  });

  it('stays off once the order is taken: the shop’s own system counts it from then on', async () => {
    const number = order('taken');
    await feed(shop, { text: JSON.stringify({ sku, stock: 50 }), by: 'a feed' }, false);
    expect([shown(), sent()]).toEqual([47, 50]);
    await set(number, 'taken', 'new');
    expect(shown()).toBe(47);
    await feed(shop, { text: JSON.stringify({ sku, stock: 47 }), by: 'a feed' }, false);
    expect([shown(), sent()]).toEqual([47, 47]);
    await set(number, 'new', 'taken');
    expect([shown(), sent()]).toEqual([47, 50]);
    await set(number, 'cancelled', 'new');
    expect(shown()).toBe(50);
  });

  it('is held for a time, and for no time where the shop says so', () => {
    const number = order(4);
    expect(holds().old('2026-11-30T13:59:59.000Z')).toEqual([]);
    expect(holds().old('2026-11-30T14:00:00.000Z')).toEqual([number]);
    holds().letGo(number, true);
    expect([shown(), holds().old('2027-01-01T00:00:00.000Z')]).toEqual([stock, []]);
    order('no');
    expect(shown()).toBe(stock);
  });

  it('is held by several orders, and of what was deleted there is none', async () => {
    const [one, two] = [order('taken', 2), makeOrder(shop, 'b@example.org', at, [['It', sku, 4, 100]])];
    shop.themes.transaction(() =>
      holds().hold(two, [{ product, sku, name: '', variant: '', quantity: 4, price: 1, total: 4, answers: [] }], at),
    );
    expect([shown(), holds().of([sku])]).toEqual([stock - 6, new Map([[sku, 6]])]);
    await feed(shop, { text: JSON.stringify({ kind: 'product', slug: product, remove: true }), by: 'a feed' }, false);
    await set(one, 'cancelled', 'new');
    await set(two, 'taken', 'new');
    expect(holds().of([sku]).size).toBe(0);
  });
});

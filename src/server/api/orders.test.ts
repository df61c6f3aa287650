import { parse } from 'csv-parse/sync';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { OrderRow, WholeOrder } from '@/contract/orders';
import type { Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { makeOrder } from '@/server/testing/orders';
import { Accounts, Orders } from '@/store';
import { answerCall } from './index';

const global = globalThis as { lastShop?: unknown };
let shop: Shop;
beforeEach(() => {
  shop = demoShop();
  global.lastShop = shop;
  makeOrder(shop, 'a@example.org', '2026-11-28T23:59:59.000Z', [['Deck oil', 'OIL-1', 2, 1450]]);
  makeOrder(shop, 'b@example.org', '2026-11-29T00:00:00.000Z', [
    ['Bow shackle', 'SH-10', 1, 900],
    ['Hemp rope, 100%', 'ROPE-8', 3, 250],
  ]);
  makeOrder(shop, 'c@example.org', '2026-11-30T10:00:00.000Z', [['Deck oil', 'OIL-5', 1, 5200]], 'draft spring');
});
afterEach(() => {
  delete global.lastShop;
});

async function ask<T>(path: string, body: object | null = null): Promise<{ status: number; message?: string } & T> {
  const answer = await answerCall(
    new Request(`http://127.0.0.1/api/orders${path}`, {
      method: body ? 'POST' : 'GET',
      headers: { 'x-last-author': 'Ash', 'Content-Type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    }),
  );
  return { status: answer.status, ...((await answer.json()) as T) };
}
interface Listed {
  orders: OrderRow[];
  counts: Record<string, number>;
  more: boolean;
}
const numbers = async (query: string) => (await ask<Listed>(query)).orders.map(({ number }) => number);

describe('orders', () => {
  it('are listed, the latest first, with what they come to', async () => {
    const { orders, counts, more } = await ask<Listed>('');
    expect(
      orders.map(({ number, email, count, total, state, madeOn }) => [number, email, count, total, state, madeOn]),
    ).toEqual([
      [1003, 'c@example.org', 1, 5200, 'new', 'draft spring'],
      [1002, 'b@example.org', 4, 1650, 'new', 'release 1'],
      [1001, 'a@example.org', 2, 2900, 'new', 'release 1'],
    ]);
    expect([counts, more]).toEqual([{ new: 3, taken: 0, cancelled: 0 }, false]);
  });

  it.each([
    ['?words=deck', [1003, 1001]],
    ['?words=rope-8', [1002]],
    ['?words=B@EXAMPLE', [1002]],
    ['?words=1001', [1001]],
    ['?words=100%25', [1002]],
    ['?words=%25%25', []],
    ['?words=_', []],
    ['?from=2026-11-29', [1003, 1002]],
    ['?to=2026-11-29', [1002, 1001]],
    ['?from=2026-11-29&to=2026-11-29', [1002]],
    ['?before=1003', [1002, 1001]],
    ['?state=taken', []],
    ['?state=new&words=oil&to=2026-11-28', [1001]],
  ])('are found by %s', async (query, found) => {
    expect(await numbers(query)).toEqual(found);
  });

  it('are taken and cancelled once, by who saw how they stand, which the log keeps', async () => {
    const taken = await ask<WholeOrder>('/1002/state', { state: 'taken', was: 'new' });
    expect(taken).toMatchObject({ status: 200, state: 'taken', by: 'Ash' });
    expect(taken.lines.map(({ name, answers }) => [name, answers])).toContainEqual([
      'Hemp rope, 100%',
      [{ label: 'Text on it', value: '=1+1' }],
    ]);
    // Someone else saw it when it was new.
    const late = await ask<WholeOrder>('/1002/state', { state: 'cancelled', was: 'new' });
    expect([late.status, late.message]).toEqual([
      409,
      'Order 1002 is taken since Ash said so. Look at it, then decide again.',
    ]);
    // Twice the same is no quarrel.
    expect(await ask<WholeOrder>('/1002/state', { state: 'taken', was: 'new' })).toMatchObject({ state: 'taken' });
    expect(await ask<WholeOrder>('/1002/state', { state: 'new', was: 'taken' })).toMatchObject({
      by: null,
      state: 'new',
    });
    await ask('/1001/state', { state: 'cancelled', was: 'new' });
    expect((await ask<Listed>('?words=oil')).counts).toEqual({ new: 1, taken: 0, cancelled: 1 });
    expect(await numbers('?state=cancelled')).toEqual([1001]);
    const log = new Accounts(shop.sql)
      .entries({ by: '', what: 'order', words: '' }, 10)
      .map(({ by, about }) => `${by}: ${about}`);
    expect(log).toEqual(['Ash: 1001 is cancelled', 'Ash: 1002 is new', 'Ash: 1002 is taken']);
  });

  it('are refused in words where there is none, or a question is no question', async () => {
    expect(await ask('/999')).toMatchObject({ status: 404, message: 'There is no order 999.' });
    expect(await ask('/999/state', { state: 'taken', was: 'new' })).toMatchObject({ status: 404 });
    for (const query of ['?state=lost', '?from=yesterday', '/x', '?before=x'])
      expect([query, (await ask(query)).status]).toEqual([query, 400]);
    expect((await ask('/1001/state', { state: 'lost', was: 'new' })).status).toBe(400);
  });

  it('leave as CSV, a row a line, in which nothing is a formula', async () => {
    const answer = await answerCall(new Request('http://127.0.0.1/api/orders/sheet?to=2026-11-29'));
    expect(answer.headers.get('content-type')).toBe('text/csv; charset=utf-8');
    const rows = parse(await answer.text(), { columns: true }) as Record<string, string>[];
    expect(
      rows.map((row) => [row.order, row.sku, row.quantity, row.price, row.total, row.currency, row.answers]),
    ).toEqual([
      ['1002', 'SH-10', '1', '9.00', '9.00', 'GBP', 'Text on it: =1+1'],
      ['1002', 'ROPE-8', '3', '2.50', '7.50', 'GBP', 'Text on it: =1+1'],
      ['1001', 'OIL-1', '2', '14.50', '29.00', 'GBP', 'Text on it: =1+1'],
    ]);
  });

  it('come a hundred at a time', async () => {
    for (let at = 0; at < 120; at++)
      makeOrder(shop, 'd@example.org', '2026-11-30T11:00:00.000Z', [['Mop', 'MOP', 1, 1]]);
    const first = await ask<Listed>('');
    expect([first.orders.length, first.more, first.counts.new]).toEqual([100, true, 123]);
    const rest = await ask<Listed>(`?before=${first.orders.at(-1)?.number}`);
    expect([rest.orders.length, rest.more]).toEqual([23, false]);
    expect([...new Orders(shop.carts).whole({})].length).toBe(123);
  });
});

it('the status has orders, what could not be sent, and the last feed', async () => {
  const asked = async () =>
    (await (await answerCall(new Request('http://127.0.0.1/api/status'))).json()) as Record<string, unknown>;
  expect(await asked()).toMatchObject({
    ...{ faults: [], liveRelease: 1, orders: { new: 3, taken: 0, cancelled: 0 }, stuck: null, lastFeed: null },
    ...{ answers: [], pages: { made: 0, again: 0, same: 0 }, waiting: { live: 0, preview: 0 } },
  });
  const feed = new Request('http://127.0.0.1/api/feed', {
    method: 'POST',
    body: '{"kind":"brand","slug":"one","put":{"name":"One"}}',
  });
  expect((await answerCall(feed)).status).toBe(200);
  shop.sql.run('DELETE FROM live');
  expect(await asked()).toMatchObject({
    faults: ['Nothing is live: publish a draft.'],
    lastFeed: { by: 'a feed', records: 1 },
  });
});

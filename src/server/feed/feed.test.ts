import fc from 'fast-check';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { FeedAnswer } from '@/contract/feed';
import { answerCall } from '@/server/api';
import { Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { Feeds, GoodsHistory, RecordReader } from '@/store';
import { feed } from './thread';

const global = globalThis as { lastShop?: unknown };
let shop: Shop;
beforeEach(() => {
  shop = demoShop([], 'themes/withy-quay', new Shop(mkdtempSync(join(tmpdir(), 'feed-'))));
  global.lastShop = shop;
});
afterEach(() => {
  delete global.lastShop;
});

async function send<T = FeedAnswer>(
  lines: readonly (object | string)[],
  { query = '', key = '' } = {},
): Promise<{ status: number; message?: string } & T> {
  const body = lines.map((one) => (typeof one === 'string' ? one : JSON.stringify(one))).join('\n');
  const answer = await answerCall(
    new Request(`http://127.0.0.1/api/feed${query}`, {
      ...{ method: 'POST', body },
      headers: { 'Content-Type': 'application/x-ndjson', ...(key ? { 'Idempotency-Key': key } : {}) },
    }),
  );
  return { status: answer.status, ...((await answer.json()) as T) };
}
const figure = (sku: string) => [...new Feeds(shop.sql).figures()].find((one) => one.sku === sku);
const record = (kind: 'product' | 'brand' | 'tag', slug: string) =>
  new RecordReader(shop.catalogue()).read(kind, [slug]).get(slug);

describe('a feed', () => {
  it('sets figures by article number, and says of each line that cannot be taken why', async () => {
    const [one, two] = [...new Feeds(shop.sql).figures()];
    if (!one || !two) throw new Error('The demo has no variants');
    const answer = await send([
      { sku: one.sku, price: 4321, stock: 7 },
      '',
      { sku: 'NO-SUCH', price: 1 },
      { sku: two.sku, price: -1 },
      { sku: two.sku, stock: two.stock },
      { price: 3 },
      '{"sku": "cut o',
      { sku: one.sku, wasPrice: 5000 },
    ]);
    expect(answer).toMatchObject({ status: 200, lines: 7, taken: 2, same: 1, refusedCount: 4, dry: false });
    expect(answer.refused.map(({ line, message }) => `${line}: ${message}`)).toEqual([
      '3: No variant has the article number “NO-SUCH”.',
      expect.stringMatching(/^4: price: /),
      expect.stringMatching(/^6: A line has an article number with figures/),
      '7: This line is not JSON: was it cut off?',
    ]);
    expect(figure(one.sku)).toMatchObject({ price: 4321, stock: 7, wasPrice: 5000 });
    // One change, which can be undone like any other.
    expect(new GoodsHistory(shop.sql).list()[0]).toMatchObject({ title: 'Feed', by: 'a feed', changed: 1 });
  });

  it('puts, patches and removes records, whatever their order, and finds the one that is wrong among many', async () => {
    const figures = [...new Feeds(shop.sql).figures()].slice(0, 40).map(({ sku }, at) => ({ sku, price: 1000 + at }));
    const product = {
      ...{ name: 'Oak cleat', brand: 'withy-yard-two', added: '2026-11-30' },
      variants: [{ sku: 'OC-1', price: 900, stock: 4 }],
    };
    const answer = await send([
      { kind: 'product', slug: 'oak-cleat', put: product },
      ...figures.slice(0, 20),
      { kind: 'brand', slug: 'withy-yard-two', put: { name: 'Withy Yard Two' } },
      { kind: 'product', slug: 'oak-cleat-b', put: { ...product, brand: 'nobody', variants: [] } },
      ...figures.slice(20),
      { kind: 'product', slug: 'deck-oil', patch: { name: 'Deck oil, light' } },
      { kind: 'product', slug: 'nothing', patch: { name: 'Nothing' } },
      { kind: 'product', slug: 'deck-oil', patch: { nonsense: 1 } },
      { kind: 'tag', slug: 'nothing-either', remove: true },
    ]);
    expect(answer.refused.map(({ line, code }) => [line, code])).toEqual([
      [23, 'names'],
      [45, 'gone'],
      [46, 'value'],
    ]);
    expect([answer.taken, answer.same]).toEqual([43, 1]);
    expect(record('product', 'oak-cleat')).toMatchObject({ name: 'Oak cleat', brand: 'withy-yard-two' });
    expect(record('product', 'deck-oil')).toMatchObject({ name: 'Deck oil, light' });
    expect(figure(figures[39]?.sku ?? '')?.price).toBe(1039);
    const gone = await send([
      // In use until the line after it.
      { kind: 'brand', slug: 'withy-yard-two', remove: true },
      { kind: 'product', slug: 'oak-cleat', remove: true },
    ]);
    expect([gone.taken, record('product', 'oak-cleat')]).toEqual([2, undefined]);
    // An order for what is gone, and a figure of it, are told so.
    expect((await send([{ sku: 'OC-1', stock: 1 }])).refused[0]?.code).toBe('sku');
  });

  it('is taken once under a key, however often it is sent', async () => {
    const [one] = [...new Feeds(shop.sql).figures()];
    const lines = [{ sku: one?.sku, stock: 41 }];
    const first = await send(lines, { key: '"night 1"' });
    expect(first).toMatchObject({ taken: 1, same: 0 });
    await send([{ sku: one?.sku, stock: 12 }]);
    expect(await send(lines, { key: '"night 1"' })).toEqual(first);
    expect(figure(one?.sku ?? '')?.stock).toBe(12);
    const other = await send([{ sku: one?.sku, stock: 9 }], { key: '"night 1"' });
    expect([other.status, other.message]).toEqual([
      422,
      'This Idempotency-Key came with other lines before: give each request a key of its own.',
    ]);
    // Without a key, what came before changes nothing.
    expect(await send([{ sku: one?.sku, stock: 12 }])).toMatchObject({ taken: 0, same: 1 });
  });

  it('says that the disk is full, keeps what was taken, and goes on when it is sent again', async () => {
    const body = { title: 'Fen', added: '2026-11-30', body: `<p>${'Much of it. '.repeat(1000)}</p>` };
    const lines = Array.from({ length: 300 }, (_, at) => ({ kind: 'content', slug: `fen-${at}`, put: body }));
    const pages = shop.sql.db.pragma('page_count', { simple: true }) as number;
    const pagesThere = () => shop.sql.get<{ count: number }>('SELECT count(*) AS count FROM content')?.count ?? 0;
    const before = pagesThere();
    // From then on it is as on a full disk: SQLite answers SQLITE_FULL (pragma.html#pragma_max_page_count).
    shop.sql.db.pragma(`max_page_count = ${pages + 1000}`);
    const full = await send(lines, { key: 'night' });
    expect(full).toMatchObject({ status: 507, message: expect.stringMatching(/^The disk is full/) as string });
    const some = pagesThere() - before;
    expect([some > 0, some < 300, some % 100]).toEqual([true, true, 0]);
    shop.sql.db.pragma('max_page_count = 1000000');
    expect(await send(lines, { key: 'night' })).toMatchObject({ status: 200, taken: 300 - some, same: some });
    expect(pagesThere() - before).toBe(300);
  });

  it('is tried without a trace', async () => {
    const [one] = [...new Feeds(shop.sql).figures()];
    const before = [
      shop.catalogue().revision,
      [...new Feeds(shop.sql).figures()],
      new GoodsHistory(shop.sql).list().length,
    ];
    const answer = await send(
      [
        { sku: one?.sku, price: 1 },
        { sku: 'NO-SUCH', price: 1 },
      ],
      { query: '?dry=true' },
    );
    expect(answer).toMatchObject({ taken: 1, refusedCount: 1, dry: true });
    expect([
      shop.catalogue().revision,
      [...new Feeds(shop.sql).figures()],
      new GoodsHistory(shop.sql).list().length,
    ]).toEqual(before);
  });

  it('is refused where it is longer than a request may be', async () => {
    const answer = await send(['x'.repeat(20_000_001)]);
    expect([answer.status, answer.message]).toEqual([413, 'The request holds 20.0 MB; at most 20 MB are taken.']);
  });

  it('is read back from a cursor on', async () => {
    const changes = async (query: string) => {
      const answer = await answerCall(new Request(`http://127.0.0.1/api/feed/changes${query}`));
      return (await answer.json()) as { changes: { slug: string; what: string }[]; cursor: number; more: boolean };
    };
    const { cursor } = await changes('?most=10000');
    await send([{ kind: 'brand', slug: 'b-one', put: { name: 'One' } }]);
    await send([{ kind: 'brand', slug: 'b-one', remove: true }]);
    const first = await changes(`?after=${cursor}&most=1`);
    expect([first.changes.map(({ slug, what }) => `${what} ${slug}`), first.more]).toEqual([['added b-one'], true]);
    const rest = await changes(`?after=${first.cursor}`);
    expect([rest.changes.map(({ slug, what }) => `${what} ${slug}`), rest.more]).toEqual([['removed b-one'], false]);
    expect(await changes(`?after=${rest.cursor}`)).toEqual({ changes: [], cursor: rest.cursor, more: false });
  });

  it('leaves the goods as a plain model of it says, over any sequence of requests', async () => {
    const known = [...new Feeds(shop.sql).figures()].slice(0, 6);
    const model = new Map(known.map(({ sku, price, stock }) => [sku, { price, stock }]));
    const skus = [...known.map(({ sku }) => sku), 'NO-SUCH'];
    const line = fc.record(
      { sku: fc.constantFrom(...skus), price: fc.integer({ min: 0, max: 9 }), stock: fc.integer({ min: -3, max: 9 }) },
      { requiredKeys: ['sku'] },
    );
    await fc.assert(
      fc.asyncProperty(fc.array(fc.array(line, { maxLength: 8 }), { maxLength: 4 }), async (requests) => {
        for (const lines of requests) {
          const answer = await feed(
            shop,
            { text: lines.map((one) => JSON.stringify(one)).join('\n'), by: 'a feed' },
            false,
          );
          const wrong = lines.filter(({ sku }) => !model.has(sku)).length;
          expect(answer).toMatchObject({ lines: lines.length, refusedCount: wrong });
          expect(answer.taken + answer.same).toBe(lines.length - wrong);
          for (const { sku, ...figures } of lines)
            if (model.has(sku)) model.set(sku, { ...(model.get(sku) as { price: number; stock: number }), ...figures });
        }
        const now = new Map([...new Feeds(shop.sql).figures()].map(({ sku, price, stock }) => [sku, { price, stock }]));
        for (const [sku, figures] of model) expect([sku, now.get(sku)]).toEqual([sku, figures]);
      }),
      { numRuns: process.env.LAST_WHOLE === '1' ? 1000 : 60, seed: 23 },
    );
  });
});

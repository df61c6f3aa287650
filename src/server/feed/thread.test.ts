import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import type { Worker } from 'node:worker_threads';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { Feeds } from '@/store';
import { feed } from './thread';

vi.mock('@/server/jobs/thread-file', async () => {
  const { threadSource } = await import('@/server/testing/thread-source');
  return { threadFile: threadSource };
});

const threads = globalThis as { lastFeed?: { worker: Worker } };
let shop: Shop;
beforeAll(() => {
  const folder = mkdtempSync(join(tmpdir(), 'feed-thread-'));
  vi.stubEnv('LAST_DATA', folder);
  shop = demoShop([], 'themes/withy-quay', new Shop(folder));
  // As on a server.
  shop.jobs = {} as never;
});
afterAll(async () => {
  await threads.lastFeed?.worker.terminate();
  vi.unstubAllEnvs();
});

const figures = () => [...new Feeds(shop.sql).figures()];
const lines = (price: number) => figures().map(({ sku }) => ({ sku, price }));
const send = (some: readonly object[], dry = false) =>
  feed(shop, { text: some.map((one) => JSON.stringify(one)).join('\n'), by: 'a feed' }, dry);

it('many lines are taken in a thread, one request after another, while nobody else writes', async () => {
  let order = '';
  const writing = shop.whileWriting(async () => {
    await wait(300);
    order += 'import ';
  });
  const answers = await Promise.all([send(lines(111)), send([...lines(222), { sku: 'NO-SUCH', price: 1 }])]);
  order += 'feed';
  await writing;
  expect(order).toBe('import feed');
  const count = figures().length;
  expect(answers.map(({ taken, refusedCount }) => [taken, refusedCount])).toEqual([
    [count, 0],
    [count, 1],
  ]);
  expect(new Set(figures().map(({ price }) => price))).toEqual(new Set([222]));
  expect(threads.lastFeed).toBeDefined();
});

it('a dry run is taken into a copy: others write meanwhile', async () => {
  const trying = send(lines(333), true);
  shop.themes.transaction(() => shop.sql.run('UPDATE variant SET stock = stock + 1'));
  expect(await trying).toMatchObject({ taken: figures().length, dry: true });
  expect(new Set(figures().map(({ price }) => price))).toEqual(new Set([222]));
});

it('a thread that ends in the middle is reported, and the next request gets another', async () => {
  const first = threads.lastFeed?.worker;
  const ended = expect(send(lines(444))).rejects.toThrow(/Send them again/);
  await first?.terminate();
  await ended;
  // Other writers are no longer kept waiting.
  await shop.writable();
  expect(await send(lines(444))).toMatchObject({ refusedCount: 0 });
  expect(new Set(figures().map(({ price }) => price))).toEqual(new Set([444]));
  expect(threads.lastFeed?.worker).not.toBe(first);
});

it('a thread that ends while it waits for its turn keeps nobody else from writing', async () => {
  const writing = shop.whileWriting(() => wait(1000));
  const ended = expect(send(lines(555))).rejects.toThrow(/Send them again/);
  await wait(500);
  await threads.lastFeed?.worker.terminate();
  await ended;
  await writing;
  await shop.writable();
  expect(new Set(figures().map(({ price }) => price))).toEqual(new Set([444]));
});

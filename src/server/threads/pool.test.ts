import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { StateRow } from '@/store/themes';
import { demoPictures, withyQuay } from '../../../demo/catalogue';
import { pageOf } from '@/server/storefront/page';
import { seed } from '@/server/seeding/seed';
import { Shop } from '@/server/shop/shop';
import { JobPool } from '@/server/jobs/pool';
import { draftJobs } from '@/server/drafts/jobs';
import { inThread } from '@/server/shop/jobs';
import { storefrontJobs } from '@/server/storefront/jobs';

const folder = mkdtempSync(join(tmpdir(), 'last-jobs-'));
let shop: Shop;
let pool: JobPool;
const live = () => shop.themes.live() as StateRow;
const oil = { path: '/product/deck-oil', query: {}, cart: { lines: [] } };

beforeAll(async () => {
  shop = new Shop(folder);
  const now = '2026-11-24T00:00:00.000Z';
  const base = 'themes/quay-1.0';
  seed(shop, {
    catalogue: withyQuay,
    more: [],
    pictures: await demoPictures(),
    base,
    addOns: [],
    own: 'themes/withy-quay',
    now,
  });
  // Threads of tests translate their code first, which takes long beside other tests.
  pool = new JobPool(folder, 60_000);
  shop.jobs = pool;
});
afterAll(async () => {
  await pool.close();
  rmSync(folder, { recursive: true, force: true });
});

describe('threads that make pages', () => {
  it('give the page that this process would make, byte for byte', async () => {
    const made = await inThread(shop, 'live', storefrontJobs.page, live(), oil);
    const own = pageOf(shop, live(), oil);
    expect(made).toEqual({ status: 200, html: own.html, questions: own.questions, timedOut: false });
  });
  it('see what was just saved', async () => {
    shop.sql.run('UPDATE product SET name = ? WHERE slug = ?', 'Another oil', 'deck-oil');
    shop.sql.run('UPDATE catalogue_state SET revision = revision + 1');
    expect((await inThread(shop, 'preview', storefrontJobs.page, live(), oil)).html).toContain('Another oil');
  });
  it('pass on what is refused', async () => {
    const draft = shop.themes.draft('spring') as StateRow;
    await expect(inThread(shop, 'preview', draftJobs.open, draft, 'pieces/gone.html')).rejects.toMatchObject({
      name: 'Refused',
      status: 404,
      body: { code: 'file', message: 'There is no file “pieces/gone.html” in this theme.' },
    });
  });
  it('write nothing', async () => {
    const before = shop.sql.get<{ n: number }>('PRAGMA data_version');
    await Promise.all(Array.from({ length: 6 }, () => inThread(shop, 'live', storefrontJobs.page, live(), oil)));
    expect(shop.sql.get<{ n: number }>('PRAGMA data_version')).toEqual(before);
  });
  it('are ended when they do not answer in time, and others take their place', async () => {
    const hurried = new JobPool(folder, 1);
    const job = { name: storefrontJobs.page.name, args: [live(), oil] };
    await expect(hurried.run('live', job)).rejects.toMatchObject({
      name: 'JobEnded',
      message: 'no answer came within 0.001 seconds',
    });
    await hurried.close();
    await expect(pool.run('live', job)).resolves.toMatchObject({ status: 200 });
  });
  it('that fail end their job with the reason', async () => {
    await expect(pool.run('live', { name: 'no such job', args: [] })).rejects.toMatchObject({ name: 'JobEnded' });
  });
});

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Worker } from 'node:worker_threads';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { demoPictures, withyQuay } from '../../../demo/catalogue';
import { seed } from '@/server/seeding/seed';
import { writeText } from '@/server/drafts/files';
import { Shop } from '@/server/shop/shop';
import { draftOf } from '@/server/shop/states';
import type { LongWork } from './long-work-thread';
import { streamWork } from './long-work';

const folder = mkdtempSync(join(tmpdir(), 'last-long-work-'));
vi.mock('@/server/jobs/thread-file', async () => {
  const { threadSource } = await import('@/server/testing/thread-source');
  return { threadFile: threadSource };
});

const survey: LongWork = {
  kind: 'survey',
  draft: 'spring',
  ask: { path: '/product/deck-oil', tried: null, template: 'pieces/stock', unsaved: [] },
};
const differing: LongWork = { kind: 'differing', a: 'live', b: 'draft/spring' };

type Line = { done?: boolean; failed?: string; looked?: number };

/** Reads a work to its end; `each` hears every line. */
async function read(work: LongWork, each: (line: Line) => void = () => {}): Promise<Line[]> {
  const found: Line[] = [];
  let rest = '';
  const decoder = new TextDecoder();
  const reader = streamWork(work).getReader();
  for (let next = await reader.read(); !next.done; next = await reader.read()) {
    const parts = (rest + decoder.decode(next.value, { stream: true })).split('\n');
    rest = parts.pop() ?? '';
    for (const line of parts.map((part) => JSON.parse(part) as Line)) {
      found.push(line);
      each(line);
    }
  }
  return found;
}

const thread = () => (globalThis as { lastSurveys?: Worker }).lastSurveys;
const was = process.env.LAST_DATA;

beforeAll(async () => {
  const shop = new Shop(folder);
  seed(shop, {
    ...{ catalogue: withyQuay, more: [], pictures: await demoPictures(), now: '2026-11-24T00:00:00.000Z' },
    ...{ base: 'themes/quay-1.0', addOns: [], own: 'themes/withy-quay' },
  });
  // Every page differs, so that comparing takes as long each time.
  const draft = draftOf(shop, 'spring');
  const layout = shop.theme(draft).theme.file('layouts/shop.html')?.text ?? '';
  writeText(shop, draft, 'layouts/shop.html', layout.replace('</body>', '<p>Spring</p></body>'), null, '', undefined);
  shop.sql.db.close();
  process.env.LAST_DATA = folder;
});
afterAll(async () => {
  await thread()?.terminate();
  if (was === undefined) delete process.env.LAST_DATA;
  else process.env.LAST_DATA = was;
  rmSync(folder, { recursive: true, force: true });
});

describe('long work', () => {
  it('of several windows goes on beside one another, each to its end', async () => {
    const all = await Promise.all([read(survey), read(differing), read(survey), read(differing)]);
    for (const lines of all) expect(lines.at(-1)).toMatchObject({ done: true });
    expect(all[2]?.at(-1)).toEqual(all[0]?.at(-1));
    expect(all[3]?.at(-1)).toEqual(all[1]?.at(-1));
  });
  it('stops when its reader leaves, and no other with it', async () => {
    const reader = streamWork(differing).getReader();
    await reader.read();
    const other = read(differing);
    await reader.cancel();
    expect((await other).at(-1)).toMatchObject({ done: true });
  });
  it('says so when its thread ends, and the next gets another', async () => {
    let ended = false;
    const lines = await read(differing, () => {
      if (!ended) void thread()?.terminate();
      ended = true;
    });
    expect(lines.at(-1)).toEqual({ failed: 'The thread that worked on this ended.' });
    expect((await read(survey)).at(-1)).toMatchObject({ done: true });
  });
});

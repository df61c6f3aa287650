import { copyFileSync, mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { runCommand } from '@/server/commands';
import { openFile, writeText } from '@/server/drafts/files';
import { demoShop } from '@/server/testing/demo-shop';
import { streamWork } from '@/server/threads';
import { storefrontJobs } from '@/server/storefront/jobs';
import { backUp, databaseFile } from '@/store';
import { inThread } from './jobs';
import { draftOf } from './states';
import { Shop, shop } from './shop';

/** A backup is restored under a server: what it serves, its threads too, is the backup's from then on. */
vi.mock('@/server/jobs/thread-file', async (actual) => {
  const { threadSource } = await import('@/server/testing/thread-source');
  const { threadFile } = await actual<{ threadFile: typeof threadSource }>();
  // Piscina's threads begin as they are written.
  return { threadFile: (...of: [string, string]) => (of[0] === 'worker' ? threadFile(...of) : threadSource(...of)) };
});

const folder = mkdtempSync(join(tmpdir(), 'restore-'));
const file = join(folder, 'whole.backup');
beforeAll(async () => {
  vi.stubEnv('LAST_DATA', folder);
  const made = demoShop([], 'themes/withy-quay', new Shop(folder));
  made.sql.db.close();
  await backUp(folder, file);
});
afterAll(async () => {
  await shop().jobs?.close();
  vi.unstubAllEnvs();
});

const price = async (): Promise<string> => {
  const state = draftOf(shop(), 'spring');
  const { html } = (await inThread(shop(), 'preview', storefrontJobs.page, state, {
    path: '/product/deck-oil',
    query: {},
    cart: { lines: [] },
  })) as { html: string };
  return /class="mine">([^<]*)/.exec(html)?.[1] ?? 'as it was';
};
const stock = 'pieces/stock.html';
const write = (text: string) => {
  const draft = draftOf(shop(), 'spring');
  writeText(shop(), draft, stock, `<p class="mine">${text}</p>`, openFile(shop(), draft, stock).hash);
};

it('the pages that threads make are of the backup, though revisions are counted from it once more', async () => {
  expect(await price()).toBe('as it was');
  write('first');
  expect(await price()).toBe('first');
  const said = await runCommand(shop(), 'restore', { file });
  expect(said[0]).toContain('What was there before is in ');
  expect(await price()).toBe('as it was');
  // The same revision as that of “first”.
  write('second');
  expect(await price()).toBe('second');
});

it('work that reads what was there ends and says so, and the next is of the backup', async () => {
  const reader = streamWork({ kind: 'differing', a: 'live', b: 'draft/spring' }).getReader();
  await runCommand(shop(), 'restore', { file });
  let text = '';
  for (let part = await reader.read(); !part.done; part = await reader.read())
    text += new TextDecoder().decode(part.value);
  expect(text).toContain('The thread that worked on this ended.');
});

it('a file that is no backup changes nothing', async () => {
  write('third');
  const bad = join(folder, 'bad.backup');
  writeFileSync(bad, 'hello');
  await expect(runCommand(shop(), 'restore', { file: bad })).rejects.toThrow('cannot be restored');
  expect(await price()).toBe('third');
  expect(readdirSync(folder).filter((name) => name.includes('.new'))).toEqual([]);
  copyFileSync(file, bad);
  await runCommand(shop(), 'restore', { file: bad });
  expect([await price(), shop().sql.db.name]).toEqual(['as it was', databaseFile(folder)]);
});

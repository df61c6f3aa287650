import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { expect, it } from 'vitest';
import { publish, saveFiles } from '@/server/drafts';
import { saveRecords } from '@/server/records';
import { demoShop } from '@/server/testing/demo-shop';
import { RecordReader } from '@/store';
import { ReleaseFolder } from './releases';
import { Shop } from './shop';
import { stateOf } from './states';

const newFolder = () => mkdtempSync(join(tmpdir(), 'releases-'));

it('has a file of what is live whenever that or the goods change, and keeps few', () => {
  const folder = newFolder();
  const out = join(newFolder(), 'releases');
  const shop = demoShop([], 'themes/withy-quay', new Shop(folder));
  const releases = new ReleaseFolder(folder, out);
  const first = releases.look();
  expect(first && existsSync(first)).toBe(true);
  expect(releases.look()).toBeNull();

  const files = [first];
  for (let price = 100; price < 500; price += 100) {
    const was = new RecordReader(shop.catalogue()).read('product', ['deck-oil']).get('deck-oil') ?? {};
    const variants = (was.variants as object[]).map((one) => ({ ...one, price }));
    const change = { kind: 'product', slug: 'deck-oil', before: was, after: { ...was, variants } } as const;
    saveRecords(shop, [change], { title: 'A price', at: '2026-11-30T10:00:00.000Z', by: 'Robin' });
    files.push(releases.look());
  }
  // The release stands, and each change of the goods beside it.
  expect(new Set(files).size).toBe(5);
  expect(readdirSync(out).sort()).toEqual([...files.map((file) => basename(file ?? '')), 'now.json'].sort());

  // What is saved in a draft is nobody's yet; once it is published, it is.
  saveFiles(shop, stateOf(shop, 'draft/spring'), [
    { path: 'content/other.html', text: '<p>Other</p>\n', expected: null },
  ]);
  expect(releases.look()).toBeNull();
  publish(shop, stateOf(shop, 'draft/spring'), { note: 'Other' }, 'Robin');
  const next = releases.look() ?? '';
  expect(next).toMatch(/\.release$/);
  const now = JSON.parse(readFileSync(join(out, 'now.json'), 'utf8')) as unknown;
  expect(now).toEqual({ files: [{ name: basename(next), size: statSync(next).size }] });
  const release = [basename(next)];
  for (let times = 0; times < 3; times++) {
    const path = `content/other-${times}.html`;
    saveFiles(shop, stateOf(shop, 'draft/spring'), [{ path, text: '<p>Other</p>\n', expected: null }]);
    publish(shop, stateOf(shop, 'draft/spring'), { note: 'Other' }, 'Robin');
    release.push(basename(releases.look() ?? ''));
  }
  expect(readdirSync(out).sort()).toEqual([...release.slice(-3), 'now.json'].sort());

  // A folder that cannot be written is tried again.
  rmSync(out, { recursive: true });
  writeFileSync(out, '');
  expect(() => releases.look()).toThrow();
  rmSync(out);
  expect(releases.look()).toMatch(/\.release$/);
  releases.close();
});

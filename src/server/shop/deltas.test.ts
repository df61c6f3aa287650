import { copyFileSync, mkdtempSync, readdirSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { seeded } from '@/core/language/testing/seeded';
import { saveRecords } from '@/server/records';
import { changeGoods } from '@/server/testing/change-goods';
import { demoShop } from '@/server/testing/demo-shop';
import { CatalogueWriter, noteNoChanges, readDelta, RecordReader, WorkingCopy } from '@/store';
import { catalogueTables, columnsOf, everything } from '@/store/rows';
import { ReleaseFolder } from './releases';
import { Shop } from './shop';

const newFolder = () => mkdtempSync(join(tmpdir(), 'deltas-'));
const folder = newFolder();
const out = join(newFolder(), 'releases');
let shop: Shop;
let releases: ReleaseFolder;
let release: string;
beforeAll(() => {
  shop = demoShop([], 'themes/withy-quay', new Shop(folder));
  releases = new ReleaseFolder(folder, out);
  release = releases.look() ?? '';
});

/** Changes the price of all variants of a product. */
function setPrice(price: number, slug = 'deck-oil'): void {
  const was = new RecordReader(shop.catalogue()).read('product', [slug]).get(slug) ?? {};
  const variants = (was.variants as object[]).map((one) => ({ ...one, price }));
  const title = { title: 'A price', at: '2026-11-30T10:00:00.000Z', by: 'Robin' };
  saveRecords(shop, [{ kind: 'product', slug, before: was, after: { ...was, variants } }], title);
}
const written = (): string => {
  const file = releases.look();
  expect(file).toMatch(/\.delta$/);
  return file ?? '';
};
async function copyOf(at: string, delta: string): Promise<WorkingCopy> {
  const copy = await WorkingCopy.of(at, release, readDelta(delta).chain);
  if (!copy) throw new Error('There is no copy');
  return copy;
}

/** The tables of the goods that differ between the shop and a copy, row for row. */
function differing(copy: WorkingCopy): string[] {
  const node = new Shop(newFolder(), { release, copy: copy.file });
  const rows = (of: Shop, table: string) => JSON.stringify(of.sql.all(everything(of.sql.db, table)));
  const found = catalogueTables.filter((table) => rows(node, table) !== rows(shop, table));
  const words = (of: Shop) => ['rope', 'oil', 'lamp', 'corde', '9'].map((one) => of.catalogue().search(one, 100));
  if (JSON.stringify(words(node)) !== JSON.stringify(words(shop))) found.push('product_search');
  node.sql.db.close();
  node.carts.db.close();
  return found;
}

describe('delta files', () => {
  it('say a changed price in few bytes, and bring a copy up to date', async () => {
    expect(release).toMatch(/\.release$/);
    const before = readFileSync(release);
    setPrice(4321);
    const delta = written();
    expect(readFileSync(delta).length).toBeLessThan(20_000);
    const copy = await copyOf(newFolder(), delta);
    expect(differing(copy)).toContain('variant');
    expect(copy.apply(readDelta(delta))).toBe(true);
    expect(differing(copy)).toEqual([]);
    expect(readFileSync(release).equals(before)).toBe(true);
    // Twice is once.
    expect(copy.apply(readDelta(delta))).toBe(false);
    copy.close();
  });

  it('say all of a hundred changes of every kind, to the last row', async () => {
    const chance = seeded(2022);
    const at = newFolder();
    let copy: WorkingCopy | null = null;
    const upToDate = async (delta: string) => {
      copy ??= await copyOf(at, delta);
      for (const name of readdirSync(out).sort()) if (name.endsWith('.delta')) copy.apply(readDelta(join(out, name)));
    };
    const kinds = new Set<string>();
    for (let tries = 0, changes = 0; changes < 100; tries++) {
      expect(tries).toBeLessThan(500);
      const what = changeGoods(shop, chance);
      if (what === null) continue;
      changes++;
      kinds.add(what.split(' ')[0] as string);
      if (chance.random(3)) continue;
      const delta = releases.look();
      if (delta === null) continue;
      await upToDate(delta);
      expect([what, differing(copy as unknown as WorkingCopy)]).toEqual([what, []]);
    }
    expect(kinds.size).toBeGreaterThan(6);
    (copy as unknown as WorkingCopy).close();
  });

  it('are refused out of their order, for another release, and damaged', async () => {
    setPrice(100);
    const one = written();
    setPrice(200);
    const two = written();
    const at = newFolder();
    const copy = await copyOf(at, one);
    const last = readDelta(one).number;
    for (const name of readdirSync(out)
      .filter((of) => of.endsWith('.delta'))
      .sort())
      if (readDelta(join(out, name)).number < last) copy.apply(readDelta(join(out, name)));
    expect(() => copy.apply(readDelta(two))).toThrow(`It is number ${last + 1}, and number ${last} has not come yet.`);
    const delta = readDelta(one);
    expect(() => copy.apply({ ...delta, release: 'another' })).toThrow('It belongs to another release.');
    expect(() => copy.apply({ ...delta, chain: 'another' })).toThrow('It belongs to another release.');
    expect(() => copy.apply({ ...delta, follows: 'another' })).toThrow('It does not follow the one before it.');
    expect(copy.last().number).toBe(last - 1);
    const short = join(at, basename(one));
    copyFileSync(one, short);
    truncateSync(short, 3000);
    expect(() => readDelta(short)).toThrow(/cannot be used: it is damaged/);
    const bytes = readFileSync(one);
    const price = bytes.indexOf('deck-oil');
    bytes.write('dock-oil', price);
    writeFileSync(short, bytes);
    expect(() => readDelta(short)).toThrow('what it holds is not what was written: copy it again');
    writeFileSync(short, 'no database');
    expect(() => readDelta(short)).toThrow(/cannot be used: it is damaged/);
    copyFileSync(release, short);
    expect(() => readDelta(short)).toThrow('it is not a delta file');
    expect(copy.apply(readDelta(one))).toBe(true);
    expect(copy.apply(readDelta(two))).toBe(true);
    expect(differing(copy)).toEqual([]);
    copy.close();
  });

  it('give way to a release file where one goes away, or the whole search is made again', () => {
    setPrice(300);
    rmSync(written());
    expect(releases.look()).toMatch(/\.release$/);
    shop.sql.run('DELETE FROM product_search');
    new CatalogueWriter(shop.sql, (markup) => markup).finish('en', true);
    const next = releases.look() ?? '';
    expect(next).toMatch(/\.release$/);
    // What is in force is listed, for who reads it from elsewhere.
    const list = () => (JSON.parse(readFileSync(join(out, 'now.json'), 'utf8')) as { files: { name: string }[] }).files;
    expect(list().map(({ name }) => name)).toEqual([basename(next)]);
    setPrice(301);
    const delta = written();
    expect(list().map(({ name }) => name)).toEqual([basename(next), basename(delta)]);
  });

  it('leave nothing behind where none are kept', () => {
    const triggers = () => shop.sql.all("SELECT name FROM sqlite_schema WHERE type = 'trigger'").length;
    expect(triggers()).toBeGreaterThan(50);
    noteNoChanges(shop.sql);
    expect(triggers()).toBe(0);
    setPrice(302);
    expect(shop.sql.all('SELECT * FROM changed_row')).toEqual([]);
    releases.close();
  });

  it('know the key of every table', () => {
    for (const table of catalogueTables)
      expect([table, columnsOf(shop.sql.db, table).key.length > 0]).toEqual([table, true]);
  });
});

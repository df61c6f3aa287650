import { chmodSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { describe, expect, it } from 'vitest';
import { catalogueFile } from '@/contract/catalogue-file';
import { StoredCatalogue } from './catalogue';
import { DataFolderError } from './database';
import { openDatabase, dataVersion } from './open';
import { importCatalogue } from './import';
import { catalogue } from './migrations/0001-catalogue';
import { theme } from './migrations/0002-theme';
import { shopping } from './migrations/0003-shopping';
import { Statements } from './statements';
import { ChangedMeanwhile, hashOf, StoredThemes } from './themes';

const folder = () => mkdtempSync(join(tmpdir(), 'last-store-'));

const file = catalogueFile.parse({
  shop: { name: 'Test', currency: 'GBP', locale: 'en-GB', locales: ['en-GB', 'fr'] },
  tags: [{ slug: 'a', name: 'A' }],
  categories: [
    { slug: 'top', name: 'Top' },
    { slug: 'mid', parent: 'top', name: 'Mid' },
    { slug: 'low', parent: 'mid', name: 'Low' },
  ],
  fields: [{ subject: 'product', key: 'load', name: 'Load', type: 'number' }],
  products: [1, 2, 3].map((n) => ({
    slug: `p${n}`,
    name: `Product ${n}`,
    added: '2026-01-01',
    tags: ['a'],
    categories: n === 1 ? ['low'] : ['mid', 'low'],
    fields: { load: String(n) },
    options: [
      {
        slug: 'size',
        name: 'Size',
        values: [
          { slug: 's', name: 'S' },
          { slug: 'l', name: 'L' },
        ],
      },
    ],
    variants: [
      { sku: `${n}s`, price: 100 * n, wasPrice: 150 * n, stock: 2, values: { size: 's' } },
      { sku: `${n}l`, price: 200 * n, stock: -1, values: { size: 'l' } },
    ],
    media: [{ path: 'x.svg', shows: [['size', 's']] as [string, string][] }],
  })),
});

function filled(): StoredCatalogue {
  const sql = new Statements(openDatabase(':memory:'));
  importCatalogue(sql, file, (markup) => markup);
  return new StoredCatalogue(sql);
}

describe('the database', () => {
  it('is made with WAL and foreign keys, and opens again as it is', () => {
    const at = folder();
    const first = openDatabase(at);
    expect([
      first.pragma('journal_mode', { simple: true }),
      first.pragma('foreign_keys', { simple: true }),
      first.pragma('user_version', { simple: true }),
    ]).toEqual(['wal', 1, dataVersion]);
    first.close();
    openDatabase(at).close();
  });
  it('brings one along that was written before there was a history', () => {
    const at = folder();
    const db = new Database(join(at, 'last.sqlite'));
    for (const sql of [catalogue, theme, shopping]) db.exec(sql);
    db.exec(`
      INSERT INTO blob VALUES ('h1', CAST('one' AS BLOB)), ('h2', CAST('two' AS BLOB)), ('h3', CAST('base' AS BLOB));
      INSERT INTO layer (id, kind, name, version) VALUES (1, 'base', 'Quay', '1.0'), (2, 'shop', 'Shop', ''), (3, 'shop', 'Shop', 'release 1');
      INSERT INTO layer_file VALUES (1, 'a.html', 'h3'), (2, 'a.html', 'h2'), (3, 'a.html', 'h1');
      INSERT INTO state (id, kind, slug, name, number, made_at) VALUES (1, 'draft', 'd', 'D', NULL, 't0'), (2, 'release', NULL, 'Release 1', 1, 't2');
      INSERT INTO state_layer VALUES (1, 0, 1), (1, 1, 2), (2, 0, 1), (2, 1, 3);
      INSERT INTO live VALUES (1, 2);
      INSERT INTO save (state_id, path, hash, saved_at) VALUES (1, 'a.html', 'h1', 't1'), (1, 'a.html', 'h2', 't3');
    `);
    db.pragma('user_version = 3');
    db.close();
    const themes = new StoredThemes(new Statements(openDatabase(at)));
    expect(themes.files(2).map(({ path, bytes }) => [path, bytes.toString()])).toEqual([['a.html', 'two']]);
    expect([themes.live()?.number, themes.liveTurn()]).toEqual([1, 1]);
    const changes = themes.changes(1);
    expect(changes.map(({ title, madeAt }) => [title, madeAt])).toEqual([
      ['a.html', 't3'],
      ['a.html', 't1'],
    ]);
    expect(themes.saves(changes[0]?.id ?? 0)).toMatchObject([{ was: 'h1', hash: 'h2' }]);
    themes.save(1, [{ path: 'a.html', bytes: Buffer.from('three') }], { title: 'x', at: 't4', by: '' });
    expect(themes.publish(1, '', 't5', '').number).toBe(2);
  });
  it('refuses one that a newer Last wrote', () => {
    const at = folder();
    const db = new Database(join(at, 'last.sqlite'));
    db.pragma('user_version = 99');
    db.close();
    expect(() => openDatabase(at)).toThrow('newer Last');
  });
  it('says in a sentence that a folder cannot be written', () => {
    const at = join(folder(), 'file');
    writeFileSync(at, '');
    expect(() => openDatabase(at)).toThrow(DataFolderError);
    expect(() => openDatabase(at)).toThrow(/The data folder .* cannot be written/);
  });
  it.skipIf(process.getuid?.() === 0)('and what permissions are missing', () => {
    const at = folder();
    chmodSync(at, 0o500);
    expect(() => openDatabase(at)).toThrow('this account may not write there');
  });
  it('says that a file is not a database', () => {
    const at = folder();
    writeFileSync(join(at, 'last.sqlite'), 'not a database, but long enough to be taken for one'.repeat(40));
    expect(() => openDatabase(at)).toThrow(/cannot be opened/);
  });
});

describe('the catalogue', () => {
  it('tells prices and stock of a product from its variants', () => {
    expect(filled().products([2])[0]).toMatchObject({ price: 200, priceHigh: 400, wasPrice: 300, stock: 2 });
  });
  it('counts each product once in a category and those above it', () => {
    expect(
      filled()
        .categories()
        .map((row) => [row.slug, row.productCount]),
    ).toEqual([
      ['top', 3],
      ['mid', 3],
      ['low', 3],
    ]);
  });
  it('loads what belongs to many products in one query', () => {
    const catalogue = filled();
    catalogue.sql.count = 0;
    const ids = [1, 2, 3];
    expect([
      catalogue.variants(ids).length,
      catalogue.options(ids).length,
      catalogue.tags(ids).length,
      catalogue.media('product', ids).length,
      catalogue.fields('product', ids).length,
    ]).toEqual([6, 3, 3, 3, 3]);
    expect(catalogue.sql.count).toBe(5);
  });
  it('puts another language’s texts over the first’s, where there are some', () => {
    const { sql } = filled();
    sql.run("INSERT INTO translation VALUES ('product', 1, 'fr', 'name', 'Produit 1')");
    expect(new StoredCatalogue(sql, 'fr').products([1, 2]).map((row) => row.name)).toEqual(['Produit 1', 'Product 2']);
  });
  it('refuses a file that uses a name it does not declare, and keeps nothing of it', () => {
    const sql = new Statements(openDatabase(':memory:'));
    const broken = { ...file, products: [{ ...(file.products[0] as (typeof file.products)[number]), brand: 'none' }] };
    expect(() => sql.db.transaction(() => importCatalogue(sql, broken, String))()).toThrow('The brand “none”');
    expect(sql.get('SELECT count(*) AS n FROM shop')).toEqual({ n: 0 });
  });
  it('holds ids to each other', () => {
    const { sql } = filled();
    expect(() => sql.run('INSERT INTO product_tag (product_id, tag_id) VALUES (99, 1)')).toThrow(/FOREIGN KEY/);
  });
});

describe('drafts and releases', () => {
  const at = '2026-01-01T00:00:00.000Z';
  const made = { title: 'a change', at, by: 'x' };
  function stored() {
    const themes = new StoredThemes(new Statements(openDatabase(':memory:')));
    const base = themes.addLayer('base', 'Base', '1', [
      ['a.html', Buffer.from('base')],
      ['z.html', Buffer.from('z')],
    ]);
    const own = themes.addLayer('shop', 'Shop', '', []);
    const draft = themes.addDraft('d', 'D', [base, own], at, '');
    const write = (path: string, text: string | null, expected?: string | null, to = draft) =>
      themes.save(to, [{ path, bytes: text === null ? null : Buffer.from(text), expected }], made).hashes[0] ?? null;
    return { themes, base, draft, write };
  }
  /** The texts of a state's own layer by path. */
  const texts = (themes: StoredThemes, stateId: number) =>
    Object.fromEntries(
      themes.files(themes.layers(stateId).at(-1)?.id ?? 0).map(({ path, bytes }) => [path, bytes.toString()]),
    );
  it('keep every save, and go up a revision with each', () => {
    const { themes, write } = stored();
    const one = write('a.html', '1', null);
    write('a.html', '1', one);
    write('a.html', null, one);
    expect(themes.draft('d')?.revision).toBe(3);
    expect(themes.sql.all('SELECT path FROM save')).toHaveLength(2);
  });
  it('refuse a save that started from something else, with all that belongs to it', () => {
    const { themes, draft, write } = stored();
    write('a.html', '1', null);
    const both = ['b.html', 'a.html'].map((path) => ({ path, bytes: Buffer.from('2'), expected: null }));
    expect(() => themes.save(draft, both, made)).toThrow(ChangedMeanwhile);
    expect(texts(themes, draft)).toEqual({ 'a.html': '1' });
  });
  it('keep the same bytes once', () => {
    const { themes, write } = stored();
    for (const path of ['b.html', 'c.html']) write(path, 'same');
    expect(themes.sql.get('SELECT count(*) AS n FROM blob')).toEqual({ n: 3 });
  });
  it('remember what a file was taken from, until that is set again', () => {
    const { themes, draft, write } = stored();
    write('a.html', '1');
    write('a.html', '2');
    const own = () => themes.hashes(themes.layers(draft).at(-1)?.id ?? 0).get('a.html')?.origin;
    expect(own()).toBe(hashOf(Buffer.from('base')));
    expect(themes.versionOf('a.html', own() ?? '')).toBe('Base 1');
    themes.save(draft, [{ path: 'a.html', bytes: Buffer.from('2'), origin: null }], made);
    expect(own()).toBeNull();
  });
  it('a release stays as it was, and is never written', () => {
    const { themes, draft, write } = stored();
    write('a.html', 'first');
    const release = themes.publish(draft, '', at, '');
    write('a.html', 'later');
    write('b.html', 'later');
    expect(texts(themes, release.id)).toEqual({ 'a.html': 'first' });
    write('a.html', null);
    expect(texts(themes, draft)).toEqual({ 'b.html': 'later' });
    expect(() => write('a.html', 'x', undefined, release.id)).toThrow(RangeError);
    expect([themes.live()?.number, themes.publish(draft, '', at, '').number]).toEqual([1, 2]);
    themes.putLive(release.id, at, '');
    expect([themes.live()?.number, themes.wentLive().length, themes.liveTurn()]).toEqual([1, 3, 3]);
  });
  it('a publish that fails half-way leaves what was live', () => {
    const { themes, draft } = stored();
    themes.publish(draft, '', at, '');
    expect(() =>
      themes.transaction(() => {
        themes.publish(draft, '', at, '');
        throw new Error('stopped');
      }),
    ).toThrow('stopped');
    expect(themes.live()?.number).toBe(1);
  });
  it('a copy and what it was copied from go their own ways, from what both had', () => {
    const { themes, draft, write } = stored();
    write('a.html', 'both');
    const copy = themes.copy(draft, 'c', { title: 'C', at, by: 'y' });
    write('a.html', 'mine');
    write('b.html', 'theirs', null, copy);
    expect([texts(themes, draft), texts(themes, copy)]).toEqual([
      { 'a.html': 'mine' },
      { 'a.html': 'both', 'b.html': 'theirs' },
    ]);
    const common = themes.common(draft, copy) ?? 0;
    expect([...themes.hashes(common).keys()]).toEqual(['a.html']);
    const brought = themes.freeze(copy);
    themes.noteBrought(draft, brought);
    expect(themes.common(draft, copy)).toBe(brought);
  });
  it('a deleted draft is gone from the lists, not from the world', () => {
    const { themes, draft, write } = stored();
    write('a.html', 'kept');
    themes.remove(draft, at);
    expect([themes.draft('d'), themes.drafts().length, themes.drafts(true).length, themes.taken('d')]).toEqual([
      null,
      0,
      1,
      true,
    ]);
    themes.remove(draft, null);
    expect(texts(themes, draft)).toEqual({ 'a.html': 'kept' });
  });
  it('a change of the layers below is kept beside its files', () => {
    const { themes, draft, base } = stored();
    const next = themes.addLayer('base', 'Base', '2', [['a.html', Buffer.from('new')]]);
    const { change } = themes.save(draft, [{ path: 'a.html', bytes: Buffer.from('m'), origin: null }], made, {
      below: [next],
    });
    expect(themes.layers(draft).map(({ id }) => id)[0]).toBe(next);
    expect(themes.change(change ?? 0)).toMatchObject({ belowWas: `[${base}]`, below: `[${next}]`, title: 'a change' });
    expect(themes.saves(change ?? 0)).toMatchObject([{ path: 'a.html', was: null, originWas: null, origin: null }]);
  });
  it('history takes space by what changed', () => {
    const { themes, draft } = stored();
    const files = Array.from({ length: 300 }, (_, at) => ({ path: `pieces/p${at}.html`, bytes: Buffer.from(`${at}`) }));
    themes.save(draft, files, made);
    const rows = () => themes.sql.get<{ n: number }>('SELECT count(*) AS n FROM layer_file')?.n ?? 0;
    const before = rows();
    for (let number = 0; number < 40; number++) {
      themes.save(draft, [{ path: 'pieces/p7.html', bytes: Buffer.from(`turn ${number}`) }], made);
      themes.publish(draft, '', at, '');
    }
    expect(rows() - before).toBe(40 - 1);
    expect(texts(themes, themes.release(20)?.id ?? 0)['pieces/p7.html']).toBe('turn 19');
  });
  it('finds the bytes that an address of an earlier release names', () => {
    const { themes, draft, write } = stored();
    const hash = write('assets/a.css', 'old') ?? '';
    themes.publish(draft, '', at, '');
    write('assets/a.css', 'new');
    expect(themes.bytesOfVersion('assets/a.css', hash.slice(0, 10))?.bytes.toString()).toBe('old');
    expect(themes.bytesOfVersion('assets/b.css', hash.slice(0, 10))).toBeNull();
    expect(themes.bytesOfVersion('assets/a.css', "' OR 1")).toBeNull();
  });
});

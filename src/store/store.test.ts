import { chmodSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { describe, expect, it } from 'vitest';
import { catalogueFile } from '@/contract/catalogue-file';
import { StoredCatalogue } from './catalogue';
import { DataFolderError, openDatabase } from './database';
import { importCatalogue } from './import';
import { Statements } from './statements';
import { ChangedMeanwhile, StoredThemes } from './themes';

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
    ]).toEqual(['wal', 1, 3]);
    first.close();
    openDatabase(at).close();
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
  it.skipIf(process.getuid?.() === 0)('and whose rights they are', () => {
    const at = folder();
    chmodSync(at, 0o500);
    expect(() => openDatabase(at)).toThrow('this account may not write there');
  });
  it('says that a file is no database', () => {
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
  function stored() {
    const themes = new StoredThemes(new Statements(openDatabase(':memory:')));
    const base = themes.addLayer('base', 'Base', '1', [['a.html', Buffer.from('base')]]);
    const own = themes.addLayer('shop', 'Shop', '', []);
    return { themes, draft: themes.addDraft('d', 'D', [base, own], at, '') };
  }
  it('keep every save, and go up a revision with each', () => {
    const { themes, draft } = stored();
    const one = themes.save(draft, 'a.html', Buffer.from('1'), null, at, 'x');
    themes.save(draft, 'a.html', Buffer.from('1'), one, at, 'x');
    themes.save(draft, 'a.html', null, one, at, 'x');
    expect(themes.draft('d')?.revision).toBe(3);
    expect(themes.sql.all('SELECT path FROM save')).toHaveLength(2);
  });
  it('refuse a save that started from something else', () => {
    const { themes, draft } = stored();
    themes.save(draft, 'a.html', Buffer.from('1'), null, at, '');
    expect(() => themes.save(draft, 'a.html', Buffer.from('2'), null, at, '')).toThrow(ChangedMeanwhile);
  });
  it('keep the same bytes once', () => {
    const { themes, draft } = stored();
    for (const path of ['b.html', 'c.html']) themes.save(draft, path, Buffer.from('same'), null, at, '');
    expect(themes.sql.get('SELECT count(*) AS n FROM blob')).toEqual({ n: 2 });
  });
  it('a release stays as it was, and is never written', () => {
    const { themes, draft } = stored();
    const release = themes.publish(draft, '', at, '');
    themes.save(draft, 'b.html', Buffer.from('later'), null, at, '');
    expect(themes.layers(release.id).flatMap((layer) => themes.files(layer.id).map((one) => one.path))).toEqual([
      'a.html',
    ]);
    expect(() => themes.save(release.id, 'a.html', Buffer.from('x'), null, at, '')).toThrow(RangeError);
    expect([themes.live()?.number, themes.publish(draft, '', at, '').number]).toEqual([1, 2]);
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
});

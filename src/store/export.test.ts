import { describe, expect, it } from 'vitest';
import { catalogueFile, type CatalogueDraft } from '@/contract/catalogue-file';
import { demoShop } from '@/server/testing/demo-shop';
import { withyQuay } from '../../demo/catalogue';
import { StoredCatalogue } from './catalogue';
import { openDatabase } from './open';
import { exportCatalogue } from './export';
import { importCatalogue } from './import';
import { Statements } from './statements';
import { CatalogueFileError } from './writer';

const stored = demoShop().catalogue();

/** The catalogue of a file, in a database of its own. */
function brought(file: CatalogueDraft, clean: (markup: string) => string = (markup) => markup): StoredCatalogue {
  const sql = new Statements(openDatabase(':memory:'));
  importCatalogue(sql, catalogueFile.parse(file), clean);
  return new StoredCatalogue(sql);
}

describe('a catalogue written to a file', () => {
  it('is read back the same, in every language', () => {
    const once = exportCatalogue(stored);
    const again = exportCatalogue(brought(once));
    expect(again).toEqual(once);
    expect(JSON.stringify(once)).toContain('"fr"');
  });
  it('says all that the demo says', () => {
    const { products, categories, menus } = catalogueFile.parse(exportCatalogue(stored));
    expect([products.length, categories.length, menus]).toEqual([
      withyQuay.products?.length,
      withyQuay.categories?.length,
      catalogueFile.parse(withyQuay).menus,
    ]);
  });
});

describe('a name that the file uses and does not have is said', () => {
  const shopOf = (more: Partial<CatalogueDraft>): CatalogueDraft => ({
    shop: { name: 'S', currency: 'GBP', locale: 'en-GB', locales: ['en-GB'] },
    ...more,
  });
  const product = { slug: 'a', name: 'A', added: '2026-01-01' };
  const table: [what: string, more: Partial<CatalogueDraft>][] = [
    ['The tag “x”', { products: [{ ...product, tags: ['x'] }] }],
    ['The category “x”', { products: [{ ...product, categories: ['x'] }] }],
    ['The category “x”', { categories: [{ slug: 'a', name: 'A', parent: 'x' }] }],
    ['The brand “x”', { products: [{ ...product, brand: 'x' }] }],
    ['The product “x”', { products: [{ ...product, related: ['x'] }] }],
    [
      'The option value “colour x”',
      { products: [{ ...product, variants: [{ sku: 'A', price: 1, values: { colour: 'x' } }] }] },
    ],
    ['The custom field “product x”', { products: [{ ...product, fields: { x: '1' } }] }],
  ];
  for (const [what, more] of table)
    it(what, () => {
      expect(() => brought(shopOf(more))).toThrow(CatalogueFileError);
      expect(() => brought(shopOf(more))).toThrow(what);
    });
});

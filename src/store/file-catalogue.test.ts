import { describe, expect, it } from 'vitest';
import { catalogueFile, type CatalogueDraft } from '@/contract/catalogue-file';
import type { CatalogueSource } from '@/core/catalogue/rows';
import { noAlternates } from '@/core/alternates/alternates';
import { makePage } from '@/core/storefront/page';
import { cleanRichText } from '@/server/clean';
import { draftOf } from '@/server/files';
import { demoShop } from '@/server/testing/demo-shop';
import { withyQuay } from '../../demo/catalogue';
import { exportCatalogue } from './export';
import { FileCatalogue } from './file-catalogue';
import { CatalogueFileError } from './import';

const shop = demoShop();
const stored = shop.catalogue();
const fromFile = new FileCatalogue(catalogueFile.parse(withyQuay), cleanRichText);
const { theme } = shop.theme(draftOf(shop, 'spring'));

const page = (source: CatalogueSource, address: string) => {
  const url = new URL(address, 'http://shop.invalid');
  const query = Object.fromEntries(url.searchParams);
  return makePage({
    theme,
    alternates: noAlternates,
    source,
    path: url.pathname,
    query,
    prefix: '',
    today: '2026-11-24',
  }).html;
};

describe('a catalogue file gives the pages that the database gives, byte for byte', () => {
  const addresses = [
    '/',
    ...['', '?sort=name', '?sort=price', '?sort=price-down', '?sort=newest', '?page=2'].map(
      (query) => `/listing/all${query}`,
    ),
    ...['rope', 'ROPE brass', 'wq-thr', 'load', '%25', 'no such'].map(
      (words) => `/listing/search?q=${encodeURIComponent(words)}`,
    ),
    ...(withyQuay.products?.map(({ slug }) => `/product/${slug}`) ?? []),
    ...(withyQuay.products?.flatMap(({ slug, variants }) =>
      (variants ?? []).map(({ sku }) => `/product/${slug}?variant=${sku}`),
    ) ?? []),
    ...(withyQuay.categories?.map(({ slug }) => `/category/${slug}`) ?? []),
    ...(withyQuay.tags?.map(({ slug }) => `/listing/tag/${slug}`) ?? []),
    ...(withyQuay.brands?.map(({ slug }) => `/listing/brand/${slug}`) ?? []),
    ...(withyQuay.content?.map(({ slug }) => `/content/${slug}`) ?? []),
  ];
  it(`${addresses.length} pages`, () => {
    for (const address of addresses)
      expect([address, page(fromFile, address) === page(stored, address)]).toEqual([address, true]);
  });
});

describe('what stands in a catalogue file', () => {
  it('is known by numbers that nothing else of its kind has', () => {
    const products = fromFile.productIds({}, 'chosen', 0, 1000);
    const media = [
      ...fromFile.media('product', products),
      ...fromFile.media(
        'category',
        fromFile.categories().map(({ id }) => id),
      ),
    ];
    const items = fromFile.menus().flatMap(({ slug }) => fromFile.menu(slug));
    for (const rows of [media, items]) {
      expect(rows.length).toBeGreaterThan(5);
      expect(new Set(rows.map(({ id }) => id)).size).toBe(rows.length);
    }
  });
});

describe('a catalogue written to a file', () => {
  it('is read back the same, from the database and from a file alike', () => {
    const once = exportCatalogue(stored);
    const again = exportCatalogue(new FileCatalogue(catalogueFile.parse(once), (markup) => markup));
    expect(again).toEqual(once);
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
  const shopOf = (more: Partial<CatalogueDraft>) =>
    catalogueFile.parse({ shop: { name: 'S', currency: 'GBP', locale: 'en-GB', locales: ['en-GB'] }, ...more });
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
      expect(() => new FileCatalogue(shopOf(more), (markup) => markup)).toThrow(CatalogueFileError);
      expect(() => new FileCatalogue(shopOf(more), (markup) => markup)).toThrow(what);
    });
});

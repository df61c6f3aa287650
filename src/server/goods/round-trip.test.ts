import { createRequire } from 'node:module';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import fc from 'fast-check';
import { afterAll, describe, expect, it } from 'vitest';
import { catalogueFile, type CatalogueDraft } from '@/contract/catalogue-file';
import { demoShop } from '@/server/testing/demo-shop';
import { catalogueOf, shopKinds } from '@/server/testing/catalogues';
import { seed } from '@/server/seeding/seed';
import { Shop } from '@/server/shop/shop';
import { Staging } from '@/store';
import { exportParts, type ExportFormat } from './export';
import { planImport } from './plan';
import { tableRows } from './table-rows';
import { formatOf } from './uploads';

type Product = NonNullable<CatalogueDraft['products']>[number];

const folder = mkdtempSync(join(tmpdir(), 'last-trip-'));
afterAll(() => rmSync(folder, { recursive: true }));

function shopOf(catalogue: CatalogueDraft): Shop {
  const shop = new Shop(':memory:');
  seed(shop, {
    catalogue,
    pictures: [],
    base: 'themes/plain-1.0',
    addOns: [],
    own: null,
    now: '2026-11-24T00:00:00.000Z',
  });
  return shop;
}

/** What an export that comes in again would change, and what of it could not be taken. */
async function again(shop: Shop, format: ExportFormat, into = shop) {
  const file = join(folder, `goods.${format}`);
  writeFileSync(file, [...exportParts(shop, format)].join(''));
  const staging = new Staging(':memory:');
  await planImport(into, staging, { file, format: formatOf(file), mode: 'merge', today: '2026-11-28' });
  return {
    changes: ['added', 'changed', 'removed'].flatMap((what) => staging.page(what as 'added', 0, 50)),
    issues: staging.issues(),
  };
}

describe('an export that comes in again changes nothing', () => {
  for (const format of ['csv', 'json', 'jsonld'] as const) {
    it(`the demo, as ${format}`, async () =>
      expect(await again(demoShop(), format)).toEqual({ changes: [], issues: [] }));
    it.each(shopKinds.filter(({ products = 0 }) => products < 1000).map((kind) => [kind.name, kind] as const))(
      `${format}: %s`,
      async (_, kind) => expect(await again(shopOf(catalogueOf(kind)), format)).toEqual({ changes: [], issues: [] }),
    );
  }

  const text = fc.oneof(
    fc.string({ maxLength: 12 }),
    fc.constantFrom(
      '=1+1',
      '+49',
      '-5',
      '@x',
      "'=x",
      "''+y",
      'a|b',
      'a;b',
      'a, b',
      '"q"',
      'two\nlines',
      'tab\there',
      ' blank ',
      '1.250',
      '12,5',
      '茶',
      'ß',
    ),
  );
  const words = text.filter((one) => one.trim() !== '');
  const slugs = ['one', 'two', 'three', 'four'];
  const product = (slug: string) =>
    fc.record({
      slug: fc.constant(slug),
      name: words,
      summary: text,
      type: text,
      description: fc.constant('<p>About</p>'),
      sku: text,
      gtin: fc.constantFrom('', '6291041500213'),
      added: fc.constant('2026-02-03'),
      brand: fc.constantFrom(null, 'maker'),
      tags: fc.subarray(['t-one', 't-two']),
      categories: fc.subarray(['c-one', 'c-two']),
      attributes: fc.uniqueArray(
        fc.record({ name: fc.constantFrom('Height', 'Care: how', 'a;b'), value: text, visible: fc.boolean() }),
        { selector: ({ name }) => name },
      ),
      fields: fc.oneof(
        fc.constant({}),
        fc.record({ note: text.filter(Boolean) }),
        fc.record({ load: fc.constantFrom('12.5', '1250', '-3', '1.125') }),
      ),
      options: fc.constant<NonNullable<Product['options']>>([
        {
          slug: 'size',
          name: 'Size',
          values: [
            { slug: 's', name: 'Small' },
            { slug: 'l', name: 'small' },
            { slug: 'x', name: '' },
          ],
        },
      ]),
      variants: fc
        .uniqueArray(
          fc.record({
            price: fc.nat(99_999),
            wasPrice: fc.option(fc.nat(99_999)),
            stock: fc.integer({ min: -3, max: 50 }),
            name: text,
            values: fc.constantFrom<Record<string, string>>({}, { size: 's' }, { size: 'l' }, { size: 'x' }),
          }),
          { maxLength: 3, selector: ({ values }) => JSON.stringify(values) },
        )
        .map((all) => all.map((one, at) => ({ ...one, sku: `${slug}-${at}` }))),
      media: fc.array(fc.record({ path: fc.constantFrom('a.png', 'b,c.png', 'd e.png'), alt: text }), { maxLength: 3 }),
      related: fc.subarray(slugs.filter((one) => one !== slug)),
      texts: fc.oneof(fc.constant({}), fc.record({ fr: fc.record({ name: words }) })),
    });
  it('any catalogue, in all formats', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom('EUR', 'JPY', 'KWD'),
        fc.tuple(...slugs.map(product)),
        async (currency, products) => {
          const catalogue: CatalogueDraft = {
            shop: { name: 'S', currency, locale: 'de', locales: ['de', 'fr'] },
            brands: [{ slug: 'maker', name: 'Maker' }],
            tags: ['t-one', 't-two'].map((slug) => ({ slug, name: slug.toUpperCase() })),
            categories: ['c-one', 'c-two'].map((slug) => ({ slug, name: `${slug} > x` })),
            fields: [
              { subject: 'product', key: 'note', name: 'Note', type: 'text' },
              { subject: 'product', key: 'load', name: 'Load', type: 'number' },
            ],
            products,
          };
          const shop = shopOf(catalogueFile.parse(catalogue));
          for (const format of ['csv', 'json', 'jsonld'] as const)
            expect(await again(shop, format)).toEqual({ changes: [], issues: [] });
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('tables as RFC 4180 writes them', () => {
  // Source: the published cases of csv-spectrum (BSD-2-Clause), with what each means as JSON.
  const spectrum = dirname(createRequire(import.meta.url).resolve('csv-spectrum'));
  const cases = readdirSync(join(spectrum, 'csvs'))
    .map((name) => name.replace('.csv', ''))
    // Its table and its JSON hold different numbers.
    .filter((name) => name !== 'location_coordinates');
  it('there are cases', () => expect(cases.length).toBeGreaterThan(9));
  it.each(cases)('%s', async (name) => {
    const rows: string[][] = [];
    const format = { encoding: 'utf-8', sure: true, delimiter: ',' } as const;
    for await (const { cells } of tableRows(join(spectrum, 'csvs', `${name}.csv`), format)) rows.push([...cells]);
    const [headings = [], ...others] = rows;
    const wanted: unknown = JSON.parse(readFileSync(join(spectrum, 'json', `${name}.json`), 'utf8'));
    expect(others.map((cells) => Object.fromEntries(headings.map((heading, at) => [heading, cells[at]])))).toEqual(
      wanted,
    );
  });
});

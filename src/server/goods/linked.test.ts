import { readFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import jsonld from 'jsonld';
import type { Graph, Product, ProductGroup, WithContext } from 'schema-dts';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { startShop } from '@/server/seeding/new-shop';
import { Shop } from '@/server/shop/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { exportCatalogue, Staging } from '@/store';
import { applyImport } from './apply';
import { exportParts } from './export';
import { planImport } from './plan';

const folder = mkdtempSync(join(tmpdir(), 'last-linked-'));
afterAll(() => rmSync(folder, { recursive: true }));
const at = '2026-11-28T10:00:00.000Z';

let shop: Shop;
beforeEach(() => {
  shop = new Shop(':memory:');
  startShop(shop, { name: 'Tidy House', currency: 'EUR', languages: ['en', 'de'], theme: 'empty' }, at);
});

async function planned(document: unknown): Promise<Staging> {
  const file = join(folder, 'goods.jsonld');
  writeFileSync(file, typeof document === 'string' ? document : JSON.stringify(document, null, 2));
  const staging = new Staging(':memory:');
  await planImport(shop, staging, { file, format: 'json', mode: 'merge', today: '2026-11-28' });
  return staging;
}
const issues = (staging: Staging) =>
  staging.issues().map(({ line, column, message }) => `${line} ${column}: ${message}`);
async function brought(document: unknown) {
  const staging = await planned(document);
  // Pictures may come afterwards.
  expect(issues(staging).filter((one) => !one.includes('There is no picture'))).toEqual([]);
  applyImport(shop, staging, { title: 'Goods', at, by: 'Robin' });
  return exportCatalogue(shop.catalogue());
}

// Documents as other shops' pages carry them, typed by schema.org's own vocabulary (the schema-dts package): a slip in a term does not compile.
const kettle: WithContext<Product> = {
  '@context': 'https://schema.org',
  '@type': 'Product',
  name: 'Copper kettle',
  description: '<p>Holds two litres.</p><script>alert(1)</script>',
  sku: 'K-1',
  gtin13: '6291041500213',
  brand: { '@type': 'Brand', name: 'Hearth & Hob' },
  category: 'Kitchen > Kettles',
  keywords: 'copper, stove',
  image: [
    'https://other.invalid/photos/kettle%201.jpg?w=800',
    { '@type': 'ImageObject', contentUrl: 'https://other.invalid/side.png' },
  ],
  additionalProperty: [
    { '@type': 'PropertyValue', name: 'Capacity', value: 2, unitText: 'litres' },
    { '@type': 'PropertyValue', name: 'Induction', value: false },
  ],
  offers: {
    '@type': 'Offer',
    price: 49.5,
    priceCurrency: 'EUR',
    availability: 'https://schema.org/InStock',
    inventoryLevel: { '@type': 'QuantitativeValue', value: 7 },
    priceSpecification: {
      '@type': 'UnitPriceSpecification',
      priceType: 'https://schema.org/ListPrice',
      price: 60,
      priceCurrency: 'EUR',
    },
  },
};
const apron: WithContext<ProductGroup> = {
  '@context': 'https://schema.org',
  '@type': 'ProductGroup',
  productGroupID: 'Apron',
  name: 'Apron',
  variesBy: ['https://schema.org/color', 'https://schema.org/size'],
  hasVariant: [
    {
      '@type': 'Product',
      sku: 'A-R-S',
      name: 'Apron, red, small',
      color: 'Red',
      size: 'S',
      offers: { '@type': 'Offer', price: '19.00', priceCurrency: 'EUR', availability: 'https://schema.org/OutOfStock' },
    },
    {
      '@type': 'Product',
      sku: 'A-B-M',
      name: 'Apron',
      color: 'Blue',
      size: { '@type': 'SizeSpecification', name: 'M' },
      offers: [{ '@type': 'Offer', price: '21.00', priceCurrency: 'EUR', availability: 'https://schema.org/InStock' }],
    },
  ],
};
const apart: Graph = {
  '@context': 'https://schema.org',
  '@graph': [
    {
      '@type': 'ProductGroup',
      '@id': 'https://other.invalid/#bowl',
      productGroupID: 'B',
      name: 'Bowl',
      variesBy: 'glaze',
    },
    {
      '@type': 'Product',
      isVariantOf: { '@id': 'https://other.invalid/#bowl' },
      sku: 'B-1',
      additionalProperty: { '@type': 'PropertyValue', name: 'glaze', value: 'Ash' },
      offers: { '@type': 'Offer', price: 12, priceCurrency: 'EUR' },
    },
    {
      '@type': 'Product',
      inProductGroupWithID: 'B',
      sku: 'B-2',
      additionalProperty: { '@type': 'PropertyValue', name: 'glaze', value: 'Salt' },
      offers: { '@type': 'Offer', price: 13, priceCurrency: 'EUR' },
    },
    { '@type': 'Organization', name: 'Not a product' },
  ],
};

describe('linked data of another shop', () => {
  it('is taken: a product with its offer, brand, category, tags, pictures and properties', async () => {
    const { products, brands, categories } = await brought(kettle);
    expect(products).toMatchObject([
      {
        slug: 'copper-kettle',
        name: 'Copper kettle',
        description: '<p>Holds two litres.</p>',
        gtin: '6291041500213',
        brand: 'hearth-hob',
        categories: ['kettles'],
        tags: ['copper', 'stove'],
        attributes: [
          { name: 'Capacity', value: '2 litres' },
          { name: 'Induction', value: 'false' },
        ],
        variants: [{ sku: 'K-1', price: 4950, wasPrice: 6000, stock: 7 }],
      },
    ]);
    expect(products?.[0]?.media?.map(({ path }) => path)).toEqual(['kettle 1.jpg', 'side.png']);
    expect([brands?.[0]?.name, categories?.map(({ name, parent }) => [name, parent])]).toEqual([
      'Hearth & Hob',
      [
        ['Kitchen', null],
        ['Kettles', 'kitchen'],
      ],
    ]);
  });

  it('is taken: a group with variants that differ by properties of the vocabulary', async () => {
    const [product] = (await brought(apron)).products ?? [];
    expect(product).toMatchObject({
      slug: 'apron',
      options: [
        { slug: 'color', values: [{ name: 'Red' }, { name: 'Blue' }] },
        { slug: 'size', values: [{ name: 'S' }, { name: 'M' }] },
      ],
      variants: [
        { sku: 'A-R-S', name: 'Apron, red, small', price: 1900, stock: 0, values: { color: 'red', size: 's' } },
        { sku: 'A-B-M', name: 'Blue, M', price: 2100, stock: 1, values: { color: 'blue', size: 'm' } },
      ],
    });
  });

  it('is taken: variants that stand apart from their group, by its address or its number', async () => {
    const { products } = await brought(apart);
    expect(products).toHaveLength(1);
    expect(products?.[0]).toMatchObject({
      slug: 'b',
      name: 'Bowl',
      variants: [
        { sku: 'B-1', values: { glaze: 'ash' } },
        { sku: 'B-2', values: { glaze: 'salt' } },
      ],
    });
  });

  it('means the same however it is written: in a list, under a prefix, with terms renamed', async () => {
    const plain = { sku: 'P-1', name: 'Peg', offers: { price: 2, priceCurrency: 'EUR' } };
    const written: unknown[] = [
      [
        {
          '@context': 'http://schema.org/',
          '@type': 'Product',
          ...plain,
          offers: { '@type': 'Offer', ...plain.offers },
        },
      ],
      {
        '@context': { s: 'https://schema.org/' },
        '@type': 's:Product',
        's:sku': 'P-1',
        's:name': 'Peg',
        's:offers': { '@type': 's:Offer', 's:price': 2, 's:priceCurrency': 'EUR' },
      },
      {
        '@context': ['https://schema.org', { title: 'http://schema.org/name' }],
        '@type': 'ItemList',
        itemListElement: [
          {
            '@type': 'ListItem',
            position: 1,
            item: { '@type': 'Product', title: 'Peg', sku: 'P-1', offers: plain.offers },
          },
        ],
      },
    ];
    for (const document of written) {
      const staging = await planned(document);
      expect([issues(staging), staging.page('added', 0, 9).map(({ after }) => [after.name, after.variants])]).toEqual([
        [],
        [['Peg', [expect.objectContaining({ sku: 'P-1', price: 200 })]]],
      ]);
    }
  });

  it('has texts in the languages that the shop has', async () => {
    const name = [
      { '@language': 'de', '@value': 'Klammer' },
      { '@language': 'en', '@value': 'Peg' },
      { '@language': 'fr', '@value': 'Pince' },
    ];
    const [product] = (await brought({ '@context': 'https://schema.org', '@type': 'Product', name })).products ?? [];
    expect(product).toMatchObject({ slug: 'peg', name: 'Peg', texts: { de: { name: 'Klammer' } } });
  });
});

describe('linked data that cannot be imported is reported, with its line', () => {
  const one = (more: object) => ({
    '@context': 'https://schema.org',
    '@graph': [{ '@type': 'Product', name: 'A', sku: 'A', ...more }],
  });
  it.each<[what: string, document: unknown, says: string]>([
    [
      'another currency',
      one({ offers: { price: 2, priceCurrency: 'USD' } }),
      '4 price: “2 USD” is in USD; the shop’s currency is EUR',
    ],
    [
      'a price below nothing',
      one({ offers: { price: -2, priceCurrency: 'EUR' } }),
      '4 price: “-2 EUR” is below nothing: a price is 0 or more',
    ],
    [
      'a range of prices',
      one({ offers: { '@type': 'AggregateOffer', lowPrice: 2 } }),
      '4 offers: A range of prices is not a price: give each variant an offer of its own',
    ],
    [
      'a wrong GTIN',
      one({ gtin: '6291041500214' }),
      '4 gtin: “6291041500214” is not a GTIN: it has 8, 12, 13 or 14 digits, the last of which checks the others',
    ],
    [
      'a picture without a name',
      one({ image: 'https://other.invalid/' }),
      '4 image: “https://other.invalid/” does not end in the name of a picture: it is left out',
    ],
    [
      'a context that would be fetched',
      { '@context': 'https://other.invalid/context', '@type': 'Product', name: 'A' },
      '1 : This is not valid JSON-LD: Its context https://other.invalid/context is not fetched: only that of https://schema.org is known here',
    ],
    [
      'no product',
      { '@context': 'https://schema.org', '@type': 'Organization', name: 'A' },
      '1 : The file is linked data, and holds no Product or ProductGroup of schema.org',
    ],
    ['no name', one({ name: undefined, sku: 'A-9' }), '4 : A product that is new needs a name'],
    [
      'JSON that is cut short',
      '{"@context": "https://schema.org",\n"@graph": [{"@type": "Product"',
      '2 31: The file is not valid JSON',
    ],
  ])('%s', async (_, document, says) => {
    expect(issues(await planned(document)).join('\n')).toContain(says);
  });
});

describe('linked data that goes out', () => {
  type Out = Record<string, unknown>;
  const document = JSON.parse([...exportParts(demoShop(), 'jsonld')].join('')) as {
    '@context': string;
    '@graph': Out[];
  };

  it('has every product, with its variants', () => {
    expect(document['@graph']).toHaveLength(61);
    const rope = document['@graph'].find(({ url }) => String(url).endsWith('/product/tarred-hemp-rope'));
    expect(rope).toMatchObject({
      '@type': 'ProductGroup',
      brand: { '@type': 'Brand' },
      productGroupID: 'tarred-hemp-rope',
    });
  });

  // Source: the vocabulary as the schema-dts package (generated from schema.org's own release) types it.
  it('uses only properties that schema.org gives to its types', () => {
    const types = dirname(createRequire(import.meta.url).resolve('schema-dts'));
    const vocabulary = readFileSync(join(types, 'schema.d.ts'), 'utf8');
    const known = new Map<string, { above: string[]; properties: Set<string> }>();
    for (const [, name = '', above = '', body = ''] of vocabulary.matchAll(
      /^interface (\w+)Base extends ([^{]+) \{\n([\s\S]*?)^\}/gm,
    ))
      known.set(name, {
        above: above.split(',').map((one) => one.trim().replace(/Base$/, '')),
        properties: new Set([...body.matchAll(/^ {4}"(\w+)"\?:/gm)].map(([, property = '']) => property)),
      });
    const has = (type: string, property: string): boolean => {
      const one = known.get(type);
      return one !== undefined && (one.properties.has(property) || one.above.some((above) => has(above, property)));
    };
    const wrong: string[] = [];
    const look = (node: unknown): void => {
      if (Array.isArray(node)) return node.forEach(look);
      if (typeof node !== 'object' || node === null || !('@type' in node)) return;
      const type = String(node['@type']);
      for (const [property, value] of Object.entries(node)) {
        if (!property.startsWith('@') && !has(type, property)) wrong.push(`${type} ${property}`);
        look(value);
      }
    };
    look(document['@graph']);
    expect([has('Product', 'color'), has('ProductGroup', 'name'), has('Offer', 'colour'), known.size > 300]).toEqual([
      true,
      true,
      false,
      true,
    ]);
    expect([...new Set(wrong)]).toEqual([]);
  });

  // Source: the jsonld package, a processor of JSON-LD 1.1.
  it('is read by a processor of JSON-LD: each statement by its full address, none dropped', async () => {
    const loader = (url: string) =>
      Promise.resolve({
        contextUrl: undefined,
        documentUrl: url,
        document: { '@context': { '@vocab': 'https://schema.org/' } },
      });
    const expanded = (await jsonld.expand(document as never, { documentLoader: loader })) as unknown as Out[];
    expect(expanded).toHaveLength(61);
    const names = expanded.flatMap((node) => (node['https://schema.org/name'] ?? []) as Out[]);
    expect(names).toContainEqual({ '@language': 'fr', '@value': expect.any(String) as string });
    const quads = (await jsonld.toRDF(document as never, {
      documentLoader: loader,
      format: 'application/n-quads',
    })) as unknown as string;
    expect(quads).toContain('<https://schema.org/priceCurrency> "GBP"');
  });
});

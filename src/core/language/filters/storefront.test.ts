import { decodeHTML } from 'entities';
import { describe, expect, it } from 'vitest';
import { Day, Html, Money, record, type RecordValue, type Value } from '../index';
import { pageOf, printed, themeOf } from '../testing/theme-of';

const picture = (url: string) => record({ kind: 'image', url });
const value = (slug: string, pictures: string[]) =>
  record({ slug, name: slug, url: `/product/rope?variant=${slug}`, media: pictures.map(picture) });
const [navy, red, white] = [value('navy', ['n1', 'n2']), value('red', ['r1']), value('white', [])] as [
  RecordValue,
  RecordValue,
  RecordValue,
];
const thick = record({ slug: '8-mm', name: '8 mm', media: [] });
const variant = (sku: string, ...values: RecordValue[]) => record({ sku, values });
const rope = record({
  name: 'Rope',
  url: '/product/rope',
  image: picture('main'),
  media: [picture('main')],
  options: [
    record({ slug: 'colour', values: [navy, red, white, value('gone', [])] }),
    record({ slug: 'size', values: [thick] }),
  ],
  variants: [variant('N8', navy, thick), variant('N9', navy), variant('R8', red, thick), variant('W8', white)],
});
const oil = record({
  name: 'Oil',
  url: '/product/oil',
  image: picture('o'),
  media: [picture('o')],
  options: [],
  variants: [variant('O')],
});

describe('tiles by an option’s value', () => {
  const tiles = (filter: string) =>
    printed(
      `<group do:each="t in l | ${filter}">{t.product.name} {t.value.slug} {t.variants | count} {t.url} {t.image.url} {t.media | count};</group>`,
      { l: [rope, oil] },
    )
      .split(';')
      .slice(0, -1);
  const table: [name: string, filter: string, tiles: string[]][] = [
    [
      'one a value, its sizes folded, its own pictures and address; a value that no variant has makes none',
      "split_by('colour')",
      [
        'Rope navy 2 /product/rope?variant=navy n1 2',
        'Rope red 1 /product/rope?variant=red r1 1',
        'Rope white 1 /product/rope?variant=white main 0',
        'Oil  1 /product/oil o 1',
      ],
    ],
    [
      'with a least number of pictures, the first always',
      "split_by('colour', pictures: 2)",
      ['Rope navy 2 /product/rope?variant=navy n1 2', 'Oil  1 /product/oil o 1'],
    ],
    ['by another option', "split_by('size')", ['Rope 8-mm 2 /product/rope main 0', 'Oil  1 /product/oil o 1']],
    ['by one that none has', "split_by('lay')", ['Rope  4 /product/rope main 1', 'Oil  1 /product/oil o 1']],
  ];
  for (const [name, filter, expected] of table) it(name, () => expect(tiles(filter)).toEqual(expected));
});

describe('structured data, by the vocabulary of schema.org', () => {
  const data = (v: Value): Record<string, unknown> => {
    const html = printed('<script type="application/ld+json" do:json="v | structured"></script>', { v });
    return JSON.parse(/>([^<]*)</.exec(html)?.[1] ?? '') as Record<string, unknown>;
  };
  const goods = (more: Record<string, unknown>) =>
    record({
      name: 'Rope & cord',
      url: '/product/rope',
      sku: 'R',
      gtin: '',
      summary: '',
      description: new Html('<p>Laid <b>well</b></p>'),
      media: [picture('/a.svg')],
      brand: record({ name: 'Osier' }),
      price: new Money(1250, 'GBP'),
      price_high: null,
      sold_out: false,
      variants: [variant('R')],
      ...more,
    });
  it('a product with one variant, at one price (Product, Offer)', () =>
    expect(data(goods({}))).toEqual({
      '@context': 'https://schema.org',
      '@type': 'Product',
      name: 'Rope & cord',
      url: '/product/rope',
      sku: 'R',
      description: 'Laid well',
      image: ['/a.svg'],
      brand: { '@type': 'Brand', name: 'Osier' },
      offers: {
        '@type': 'Offer',
        price: '12.50',
        priceCurrency: 'GBP',
        availability: 'https://schema.org/InStock',
        url: '/product/rope',
      },
    }));
  it('one with several, sold out (AggregateOffer)', () =>
    expect(
      data(goods({ variants: [variant('A'), variant('B')], price_high: new Money(2000, 'GBP'), sold_out: true }))
        .offers,
    ).toEqual({
      '@type': 'AggregateOffer',
      lowPrice: '12.50',
      highPrice: '20.00',
      priceCurrency: 'GBP',
      offerCount: 2,
      availability: 'https://schema.org/OutOfStock',
    }));
  it('a price in a currency without minor units', () =>
    expect((data(goods({ price: new Money(1250, 'JPY') })).offers as { price: string }).price).toBe('1250'));
  it('a listing (ItemList)', () =>
    expect(data(record({ title: 'All', count: 2, products: [rope, oil] }))).toMatchObject({
      '@type': 'ItemList',
      numberOfItems: 2,
      itemListElement: [
        { position: 1, url: '/product/rope' },
        { position: 2, name: 'Oil' },
      ],
    }));
  it('a path (BreadcrumbList)', () =>
    expect(data([record({ name: 'A', url: '/a' }), record({ name: 'B', url: '/b' })])).toMatchObject({
      '@type': 'BreadcrumbList',
      itemListElement: [
        { position: 1, item: '/a' },
        { position: 2, name: 'B' },
      ],
    }));
  it('an article (Article)', () =>
    expect(
      data(
        record({
          title: 'Knots',
          url: '/article/knots',
          summary: 's',
          body: new Html('<p>b</p>'),
          image: null,
          added: Day.read('2026-03-01'),
        }),
      ),
    ).toEqual({
      '@context': 'https://schema.org',
      '@type': 'Article',
      headline: 'Knots',
      url: '/article/knots',
      description: 's',
      datePublished: '2026-03-01',
    }));
  it('nothing of what has none', () => expect(data(record({ a: 1 }))).toBeNull());
});

describe('a film’s link', () => {
  const players = [
    { share: 'https://films.example/watch/{id}', player: 'https://player.films.example/{id}?quiet=1' },
    { share: 'https://f.example/{id}/film', player: '/assets/player.html?film={id}' },
  ];
  const table: [link: Value, address: string][] = [
    ['https://films.example/watch/Ab-9_x', 'https://player.films.example/Ab-9_x?quiet=1'],
    [' https://films.example/watch/Ab-9_x?t=30 ', 'https://player.films.example/Ab-9_x?quiet=1'],
    ['https://f.example/77/film', '/assets/player.html?film=77'],
    ['https://films.example/watch/', ''],
    ['https://films.example.evil.example/watch/1', ''],
    ['https://films.example/watch/1/../../evil', ''],
    ['javascript:alert(1)', ''],
    [null, ''],
  ];
  for (const [link, address] of table)
    it(String(link), () =>
      expect(decodeHTML(printed('{v | embed}', { v: link }, { services: { phrase: () => null, players } }))).toBe(
        address,
      ),
    );
});

describe('the address of a served piece', () => {
  const theme = themeOf({
    'product/default.html': "{fragment('pieces/find', q: v, of: p)}|{fragment('pieces/not', q: v)}",
    'pieces/find.html': '<takes name="q" type="text" served>{q}',
    'pieces/not.html': 'x',
  });
  it('has its inputs in the query, objects by their slugs; none where nothing is served', () =>
    expect(decodeHTML(pageOf(theme, { v: 'a & b', p: record({ slug: 'rope' }) }).html)).toBe(
      '/fragment/pieces/find?q=a+%26+b&of=rope|',
    ));
});

describe('named arguments of filters', () => {
  const table: [expression: string, result: string][] = [
    ["{'abcdef ghi' | shorten(tail: '!', n: 8)}", 'abcdef!'],
    ["{[1, 2] | join(s: '+')}", '1+2'],
    ['{p | sized(height: 3)}', '/a.png?h=3'],
  ];
  for (const [expression, result] of table)
    it(expression, () => expect(printed(expression, { p: record({ url: '/a.png' }) })).toBe(result));
});

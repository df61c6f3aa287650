import { describe, expect, it } from 'vitest';
import { demoShop } from '@/server/testing/demo-shop';
import { formatFor, record, type RecordValue } from '@/core/language';
import type { FilterContext } from '@/core/language/filters/filter';
import { splitBy } from '@/core/language/filters/tiles';
import { World } from '../world';
import { Bits } from './bits';
import type { Chosen, Split } from './listing-index';

const shop = demoShop();
const source = shop.catalogue();
const names = { locale: 'en-GB', all: () => source.names() };
const split = { option: 'colour', pictures: 0 };
const none: Chosen = { options: {}, tags: [], brands: [], prices: [], inStock: false };
const idOf = (table: string, slug: string) =>
  shop.sql.get<{ id: number }>(`SELECT id FROM ${table} WHERE slug = ?`, slug)?.id as number;

describe('sets of bits', () => {
  for (const length of [0, 1, 31, 32, 33, 100, 1000]) {
    it(`of ${length}`, () => {
      const odd = Bits.of(
        length,
        Array.from({ length }, (_, at) => at).filter((at) => at % 3 === 1),
      );
      const members = Array.from({ length }, (_, at) => at).filter((at) => at % 3 === 1);
      expect([...odd.members()]).toEqual(members);
      expect([odd.count(), Bits.full(length).count(), Bits.full(length).countWith(odd)]).toEqual([
        members.length,
        length,
        members.length,
      ]);
      expect([odd.copy().join(Bits.full(length)).count(), Bits.full(length).keep(odd).count()]).toEqual([
        length,
        members.length,
      ]);
      expect(members.every((at) => odd.has(at) && !(at + 1 < length && odd.has(at + 1)))).toBe(true);
    });
  }
});

/**
 * The same question put to SQL written for this test alone: products that have a variant with everything chosen of variants,
 * and everything chosen of products.
 */
function bySql(category: string | null, chosen: Chosen, tile: boolean): Set<string> {
  const tests: string[] = [];
  const values: unknown[] = [];
  if (category) {
    tests.push(`p.id IN (WITH RECURSIVE c(id) AS (SELECT id FROM category WHERE slug = ? UNION
      SELECT k.id FROM category k JOIN c ON k.parent_id = c.id)
      SELECT product_id FROM product_category WHERE category_id IN (SELECT id FROM c))`);
    values.push(category);
  }
  for (const [option, slugs] of Object.entries(chosen.options)) {
    tests.push(`v.id IN (SELECT vv.variant_id FROM variant_value vv JOIN option_value ov ON ov.id = vv.value_id
      JOIN option o ON o.id = ov.option_id WHERE o.slug = ? AND ov.slug IN (SELECT value FROM json_each(?)))`);
    values.push(option, JSON.stringify(slugs));
  }
  if (chosen.tags.length) {
    tests.push('p.id IN (SELECT product_id FROM product_tag WHERE tag_id IN (SELECT value FROM json_each(?)))');
    values.push(JSON.stringify(chosen.tags));
  }
  if (chosen.brands.length) {
    tests.push('p.brand_id IN (SELECT value FROM json_each(?))');
    values.push(JSON.stringify(chosen.brands));
  }
  if (chosen.prices.length) {
    const ranges = chosen.prices.map(
      ([from, to]) => `(v.price >= ${from}${to === null ? '' : ` AND v.price < ${to}`})`,
    );
    tests.push(`(${ranges.join(' OR ')})`);
  }
  if (chosen.inStock) tests.push('v.stock > 0');
  const colour = `(SELECT ov.slug FROM variant_value vv JOIN option_value ov ON ov.id = vv.value_id
    JOIN option o ON o.id = ov.option_id WHERE vv.variant_id = v.id AND o.slug = 'colour')`;
  const rows = shop.sql.all<{ slug: string }>(
    `SELECT DISTINCT p.slug${tile ? ` || ' ' || coalesce(${colour}, '')` : ''} AS slug FROM product p JOIN variant v ON v.product_id = p.id
     ${tests.length ? `WHERE ${tests.join(' AND ')}` : ''}`,
    ...values,
  );
  return new Set(rows.map((row) => row.slug));
}

const table: [name: string, category: string | null, chosen: Partial<Chosen>][] = [
  ['everything', null, {}],
  ['a category with those below it', 'rope-and-cord', {}],
  ['an empty category', 'anchors', {}],
  ['a colour', null, { options: { colour: ['navy'] } }],
  ['one colour or another', 'rope-and-cord', { options: { colour: ['navy', 'black'] } }],
  [
    'a colour that no variant has in that size',
    'synthetic-rope',
    { options: { colour: ['navy'], diameter: ['10mm'] } },
  ],
  ['in stock', null, { inStock: true }],
  ['a colour in stock in a size', null, { options: { colour: ['navy'], diameter: ['8mm'] }, inStock: true }],
  ['a price', null, { prices: [[1000, 2000]] }],
  [
    'prices',
    'canvas',
    {
      prices: [
        [0, 1000],
        [4000, null],
      ],
    },
  ],
  ['a price in a colour', null, { prices: [[3000, null]], options: { colour: ['red', 'signal-red'] } }],
  ['a tag', null, { tags: [idOf('tag', 'gift')] }],
  ['a tag and a brand', null, { tags: [idOf('tag', 'gift')], brands: [idOf('brand', 'withy-yard')] }],
  [
    'all at once',
    'goods',
    { tags: [idOf('tag', 'canvas')], options: { colour: ['navy', 'red'] }, prices: [[2000, null]], inStock: true },
  ],
  ['what is nowhere', null, { options: { colour: ['mauve'] } }],
];

describe('what is listed, and how much of it, against SQL written separately', () => {
  for (const [name, category, some] of table) {
    const chosen = { ...none, ...some };
    const filter = category ? { categoryId: idOf('category', category) } : {};
    for (const tile of [false, true]) {
      const index = source.index(tile ? split : null);
      it(`${name}${tile ? ', as tiles' : ''}`, () => {
        const found = index.list({ filter, chosen, sort: 'chosen', names, offset: 0, limit: 1000 });
        const slugs = new Map(source.products(found.rows.map((row) => row.productId)).map((row) => [row.id, row.slug]));
        const shown = found.rows.map(
          ({ productId, value }) => `${slugs.get(productId)}${tile ? ` ${value ?? ''}` : ''}`,
        );
        expect(new Set(shown)).toEqual(bySql(category, chosen, tile));
        expect([shown.length, index.count({ filter }, chosen)]).toEqual([found.count, found.count]);
      });
      it(`${name}${tile ? ', as tiles' : ''}: each count is what choosing it would list`, () => {
        const counts = index.counts({ filter }, chosen);
        const ask = (change: Partial<Chosen>) => bySql(category, { ...chosen, ...change }, tile).size;
        for (const [option, values] of counts.options)
          for (const [value, count] of values)
            expect([option, value, count]).toEqual([
              option,
              value,
              ask({ options: { ...chosen.options, [option]: [value] } }),
            ]);
        for (const [tag, count] of counts.tags) expect([tag, count]).toEqual([tag, ask({ tags: [tag] })]);
        for (const [brand, count] of counts.brands) expect([brand, count]).toEqual([brand, ask({ brands: [brand] })]);
        for (const { from, to, count } of counts.prices)
          expect([from, to, count]).toEqual([from, to, ask({ prices: [[from, to]] })]);
        expect(counts.inStock).toBe(ask({ inStock: true }));
      });
    }
  }
});

describe('tiles', () => {
  const context: FilterContext = {
    format: formatFor('en-GB'),
    services: { phrase: () => null },
    print: String,
    charge: () => {},
    work: () => {},
  };
  const world = new World(source, (path) => path, '/');
  const products = world.productsById(
    shop.sql.all<{ id: number }>('SELECT id FROM product ORDER BY position').map((row) => row.id),
  );
  for (const pictures of [0, 1, 2, 3]) {
    it(`of a listing are those of split_by, with ${pictures} pictures at least`, () => {
      const { rows } = source
        .index({ option: 'colour', pictures })
        .list({ filter: {}, sort: 'chosen', names, offset: 0, limit: 1000 });
      const made = splitBy.run(context, products, 'colour', pictures) as RecordValue[];
      const slugs = new Map(products.map((product) => [String(product.slug), product]));
      const said = rows.map(({ productId, value }) => {
        const row = source.products([productId])[0];
        return `${slugs.get(row?.slug ?? '')?.slug as string} ${value ?? '-'}`;
      });
      expect(said).toEqual(
        made.map(
          (tile) =>
            `${String((tile.product as RecordValue).slug)} ${tile.value ? String((tile.value as RecordValue).slug) : '-'}`,
        ),
      );
    });
  }
  const lines = (split: Split) => {
    const { rows } = source.index(split).list({ filter: {}, sort: 'chosen', names, offset: 0, limit: 1000 });
    return rows.map(({ productId, value }) => `${source.products([productId])[0]?.slug} ${value ?? '-'}`);
  };
  const hemp = 'tarred-hemp-rope';
  it.each([
    ['only these values', { values: ['navy'] }],
    ['these, with two pictures at least', { pictures: 2, values: ['navy', 'natural', 'red'] }],
    ['no product has it', { values: ['mauve'] }],
    ['one product of its own', { ofProducts: { [hemp]: ['natural'] } }],
    ['one product whole', { pictures: 1, ofProducts: { [hemp]: [] } }],
    ['one product over what all say', { pictures: 9, values: ['navy'], ofProducts: { [hemp]: ['natural', 'red'] } }],
    ['no such product', { ofProducts: { 'no-such': ['navy'] } }],
  ] as [string, Partial<Split>][])('of chosen values are those of split_by: %s', (_, said) => {
    const split = { option: 'colour', pictures: 0, ...said };
    const look = record({
      ...{ split_by: 'colour', pictures: split.pictures, values: [...(split.values ?? [])] },
      values_of: record(Object.fromEntries(Object.entries(split.ofProducts ?? {}).map(([of, own]) => [of, [...own]]))),
    });
    const made = splitBy.run(context, products, look) as RecordValue[];
    const slugs = made.map(({ product, value }) =>
      [product, value].map((one) => (one ? (one as RecordValue).slug : '-')).join(' '),
    );
    expect(lines(split)).toEqual(slugs);
  });
  it('a product has the tiles that are chosen for it, or one', () => {
    const of = (split: Partial<Split>) =>
      lines({ option: 'colour', pictures: 0, ...split }).filter((line) => line.startsWith(`${hemp} `));
    const all = of({}).map((line) => line.slice(hemp.length + 1));
    expect(all.length).toBeGreaterThan(1);
    const [first, second] = all as [string, string];
    expect(of({ values: [second] })).toEqual([`${hemp} ${second}`]);
    expect(of({ values: ['mauve'] })).toEqual([`${hemp} -`]);
    expect(of({ values: [first], ofProducts: { [hemp]: [] } })).toEqual([`${hemp} -`]);
    expect(of({ values: [first], ofProducts: { [hemp]: [second] } })).toEqual([`${hemp} ${second}`]);
    expect(splitBy.run(context, products, 'colour', 0, [second])).toHaveLength(
      lines({ option: 'colour', pictures: 0, values: [second] }).length,
    );
  });
  it('three colours in three sizes make three; the first has one whatever its pictures (common practice, no source)', () => {
    const rope = source.productBySlug('tarred-hemp-rope')?.id as number;
    const linesWith = (pictures: number) =>
      source
        .index({ option: 'colour', pictures })
        .list({ filter: {}, sort: 'chosen', names, offset: 0, limit: 1000 })
        .rows.filter((row) => row.productId === rope)
        .map((row) => row.value);
    expect(linesWith(2)).toEqual(['tarred-brown', 'natural', 'black']);
    expect(linesWith(3)).toEqual(['tarred-brown']);
  });
});

describe('orders', () => {
  it('by name are those of the language (CLDR, by Intl)', () => {
    const { compare } = new Intl.Collator('fr', { numeric: true });
    const inFrench = shop.catalogue('fr');
    const french = new Map(inFrench.names());
    const { rows } = inFrench
      .index(null)
      .list({ filter: {}, sort: 'name', names: { locale: 'fr', all: () => inFrench.names() }, offset: 0, limit: 1000 });
    const shown = rows.map((row) => french.get(row.productId) as string);
    expect(shown).toEqual([...shown].sort(compare));
    expect(shown.length).toBe(french.size);
  });
  it('of a search put the best match first, accents and capitals aside', () => {
    const found = (words: string, locale: string | null = null) => {
      const asked = shop.catalogue(locale);
      return asked.products(asked.search(words, 5)).map((row) => row.slug);
    };
    expect(found('manila')[0]).toBe('manila-rope');
    expect(found('WQ-ANL')[0]).toBe('anchor-lamp');
    expect(found('epissoir', 'fr')).toContain('oak-fid-small');
    expect(found('ÉPISSOIR chene', 'fr')).toContain('oak-fid-small');
    expect([found('"; DROP'), found('*'), found('')]).toEqual([[], [], []]);
  });
});

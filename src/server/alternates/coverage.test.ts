import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Rule } from '@/core/alternates/alternates';
import { chooser } from '@/core/alternates/choose';
import { groupOf, type Condition, type Leaf } from '@/core/alternates/condition';
import { cover, switches, type CoverAsk } from '@/core/alternates/coverage';
import { Matcher } from '@/core/alternates/table';
import { subjectOf } from '@/core/catalogue/subject';
import { World } from '@/core/catalogue/world';
import { factTable } from '@/store/fact-tables';
import { openDatabase } from '@/store/open';
import { Statements } from '@/store/statements';
import { StoredCatalogue } from '@/store/catalogue';
import { retireTag } from '@/server/goods/retire-tag';
import { Shop } from '@/server/shop/shop';

const today = '2026-11-26';
const tags = ['deck', 'gift', 'offer'];
const types = ['rope', 'cord', 'book', ''];
const categories = ['goods', 'ropes', 'thin', 'books'];
const brands = ['osier', 'marl'];

/** A product of a generated catalogue; numbers are places in the lists above. */
const product = fc.record({
  type: fc.constantFrom(...types),
  brand: fc.option(fc.nat(1)),
  price: fc.option(fc.nat(4).map((n) => n * 500)),
  stock: fc.integer({ min: -1, max: 3 }),
  added: fc.constantFrom('2026-01-01', '2026-11-01', '2026-11-20', '2026-11-26', '2026-12-01'),
  tags: fc.uniqueArray(fc.nat(2)),
  categories: fc.uniqueArray(fc.nat(3)),
  lay: fc.option(fc.constantFrom('right-hand', 'left-hand', 'Plaited')),
  load: fc.option(fc.constantFrom('3', '4.5', '12', 'many', '')),
  spliced: fc.option(fc.constantFrom('true', 'false')),
});
type Product = typeof product extends fc.Arbitrary<infer T> ? T : never;

const leaf: fc.Arbitrary<Leaf> = fc.oneof(
  fc.record({
    fact: fc.constant('tag'),
    test: fc.constant('is' as const),
    value: fc.uniqueArray(fc.constantFrom(...tags, 'gone'), { minLength: 1 }),
  }),
  fc.record({
    fact: fc.constantFrom('tag', 'category', 'type', 'brand', 'price'),
    test: fc.constantFrom('filled' as const, 'empty' as const),
  }),
  fc.record({
    fact: fc.constant('category'),
    test: fc.constant('is' as const),
    value: fc.uniqueArray(fc.constantFrom(...categories), { minLength: 1 }),
  }),
  fc.record({
    fact: fc.constant('type'),
    test: fc.constant('is' as const),
    value: fc.uniqueArray(fc.constantFrom('rope', 'CORD', 'gone'), { minLength: 1 }),
  }),
  fc.record({
    fact: fc.constant('brand'),
    test: fc.constant('is' as const),
    value: fc.uniqueArray(fc.constantFrom(...brands), { minLength: 1 }),
  }),
  fc.record({
    fact: fc.constantFrom('type', 'slug'),
    test: fc.constantFrom('begins' as const, 'contains' as const),
    value: fc.constantFrom('r', 'O', 'p1', 'book'),
  }),
  fc.record({
    fact: fc.constantFrom('price', 'stock'),
    test: fc.constantFrom('at-least' as const, 'at-most' as const, 'equals' as const),
    value: fc.constantFrom(0, 2, 500, 1000),
  }),
  fc.record({
    fact: fc.constant('added'),
    test: fc.constantFrom('since' as const, 'until' as const),
    value: fc.constantFrom('2026-11-01', '2026-11-25'),
  }),
  fc.record({ fact: fc.constant('added'), test: fc.constant('last' as const), value: fc.constantFrom(1, 7, 30) }),
  fc.record({
    fact: fc.constant('attribute'),
    name: fc.constant('Lay'),
    test: fc.constant('is' as const),
    value: fc.constant<string[]>(['plaited', 'left-hand']),
  }),
  fc.record({
    fact: fc.constant('attribute'),
    name: fc.constant('Lay'),
    test: fc.constantFrom('filled' as const, 'empty' as const),
  }),
  fc.record({
    fact: fc.constant('field'),
    name: fc.constant('load'),
    test: fc.constantFrom('at-least' as const, 'at-most' as const),
    value: fc.constantFrom(3, 4.5, 10),
  }),
  fc.record({
    fact: fc.constant('field'),
    name: fc.constant('spliced'),
    test: fc.constantFrom('yes' as const, 'no' as const),
  }),
);
const condition: fc.Arbitrary<Condition> = fc.letrec<{ condition: Condition }>((tie) => ({
  condition: fc.oneof(
    { maxDepth: 3 },
    leaf,
    fc.record({ all: fc.array(tie('condition'), { maxLength: 3 }) }),
    fc.record({ any: fc.array(tie('condition'), { maxLength: 3 }) }),
    fc.record({ not: fc.array(tie('condition'), { maxLength: 3 }) }),
  ),
})).condition;

/** A catalogue in an empty database: categories goods > ropes > thin, and books. */
function fill(sql: Statements, products: readonly Product[]): void {
  sql.run("INSERT INTO shop (id, name, currency, locale, locales) VALUES (1, 'Test', 'GBP', 'en-GB', '[\"en-GB\"]')");
  brands.forEach((slug, at) => sql.run('INSERT INTO brand (id, slug, name) VALUES (?, ?, ?)', at + 1, slug, slug));
  tags.forEach((slug, at) => sql.run('INSERT INTO tag (id, slug, name) VALUES (?, ?, ?)', at + 1, slug, slug));
  categories.forEach((slug, at) =>
    sql.run(
      'INSERT INTO category (id, slug, name, parent_id) VALUES (?, ?, ?, ?)',
      at + 1,
      slug,
      slug,
      at === 1 || at === 2 ? at : null,
    ),
  );
  sql.run(
    "INSERT INTO field_definition (id, subject, key, name, type) VALUES (1, 'product', 'load', 'Load', 'number'), (2, 'product', 'spliced', 'Spliced', 'flag')",
  );
  products.forEach((one, at) => {
    const { id } = sql.run(
      'INSERT INTO product (slug, name, type, brand_id, price, stock, added, position) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
      `p${at}`,
      `P ${at}`,
      one.type,
      one.brand === null ? null : one.brand + 1,
      one.price,
      one.stock,
      one.added,
      at,
    );
    for (const tag of one.tags) sql.run('INSERT INTO product_tag (product_id, tag_id) VALUES (?, ?)', id, tag + 1);
    for (const category of one.categories)
      sql.run('INSERT INTO product_category (product_id, category_id) VALUES (?, ?)', id, category + 1);
    if (one.lay !== null) sql.run("INSERT INTO attribute (product_id, name, value) VALUES (?, 'Lay', ?)", id, one.lay);
    if (one.load !== null)
      sql.run('INSERT INTO field_value (definition_id, subject_id, value) VALUES (1, ?, ?)', id, one.load);
    if (one.spliced !== null)
      sql.run('INSERT INTO field_value (definition_id, subject_id, value) VALUES (2, ?, ?)', id, one.spliced);
  });
}

/**
 * The same condition as SQL over the store's tables, written apart from the matcher: the outside check that the issue asks
 * for. SQLite decides what holds.
 */
function asSql(of: Condition): string {
  const group = groupOf(of);
  if (group) {
    const parts = group.parts.map((part) => `(${asSql(part)})`);
    if (group.name === 'all') return parts.join(' AND ') || '1';
    return group.name === 'any' ? parts.join(' OR ') || '0' : `NOT (${parts.join(' OR ') || '0'})`;
  }
  const one = of as Leaf;
  const text = (value: string) => `'${value.replaceAll("'", "''")}'`;
  const among = (values: readonly string[]) => `(${values.map((value) => text(value.toLowerCase())).join(', ')})`;
  const members: Record<string, string> = {
    tag: 'SELECT t.slug FROM product_tag pt JOIN tag t ON t.id = pt.tag_id WHERE pt.product_id = p.id',
    category: `WITH RECURSIVE up(id) AS (SELECT category_id FROM product_category WHERE product_id = p.id
      UNION SELECT c.parent_id FROM up JOIN category c ON c.id = up.id WHERE c.parent_id IS NOT NULL)
      SELECT slug FROM category WHERE id IN (SELECT id FROM up)`,
  };
  const set = members[one.fact];
  if (set !== undefined) {
    if (one.test === 'is') return `EXISTS (SELECT 1 FROM (${set}) WHERE slug IN ${among(one.value)})`;
    return `${one.test === 'empty' ? 'NOT ' : ''}EXISTS (${set})`;
  }
  const stored = (id: number) => `(SELECT value FROM field_value WHERE definition_id = ${id} AND subject_id = p.id)`;
  const value: Record<string, string> = {
    type: "nullif(p.type, '')",
    slug: 'p.slug',
    brand: '(SELECT slug FROM brand b WHERE b.id = p.brand_id)',
    price: 'p.price',
    stock: 'p.stock',
    added: 'p.added',
    attribute: "(SELECT value FROM attribute WHERE product_id = p.id AND name = 'Lay')",
    // What is not a number is none.
    field:
      one.name === 'load'
        ? `(SELECT CAST(v AS REAL) FROM (SELECT ${stored(1)} AS v) WHERE v GLOB '[0-9]*')`
        : stored(2),
  };
  const v = value[one.fact] as string;
  switch (one.test) {
    case 'is':
      return `coalesce(lower(${v}) IN ${among(one.value)}, 0)`;
    case 'begins':
      return `coalesce(instr(lower(${v}), ${text(one.value.toLowerCase())}) = 1, 0)`;
    case 'contains':
      return `coalesce(instr(lower(${v}), ${text(one.value.toLowerCase())}) > 0, 0)`;
    case 'at-least':
      return `coalesce(${v} >= ${one.value}, 0)`;
    case 'at-most':
      return `coalesce(${v} <= ${one.value}, 0)`;
    case 'equals':
      return `coalesce(${v} = ${one.value}, 0)`;
    case 'since':
      return `${v} >= ${text(one.value)}`;
    case 'until':
      return `${v} <= ${text(one.value)}`;
    case 'last':
      return `${v} BETWEEN date('${today}', '-${one.value - 1} days') AND '${today}'`;
    case 'filled':
      return `${v} IS NOT NULL`;
    case 'empty':
      return `${v} IS NULL`;
    case 'yes':
      return `coalesce(${v} = 'true', 0)`;
    case 'no':
      return `NOT coalesce(${v} = 'true', 0)`;
  }
}

const plainField = { help: '', choices: [], several: false };
const definitions = (kind: string) =>
  kind === 'product'
    ? [
        { key: 'load', name: 'Load', type: 'number' as const, unit: '', ...plainField },
        { key: 'spliced', name: 'Spliced', type: 'flag' as const, unit: '', ...plainField },
      ]
    : [];
const wish = { searches: [], withCategories: false };
const fresh = () => new Statements(openDatabase(':memory:'));

describe('whom a rule holds for', () => {
  it('is what SQLite finds by the same condition, and what each subject says by itself', () => {
    fc.assert(
      fc.property(
        fc.array(product, { minLength: 1, maxLength: 12 }),
        fc.array(condition, { minLength: 1, maxLength: 8 }),
        (products, conditions) => {
          const sql = fresh();
          fill(sql, products);
          const table = factTable(sql, 'product', wish);
          const matcher = new Matcher(table, today);
          const world = new World(new StoredCatalogue(sql), (path) => path, '/');
          const seen = world
            .productsById(sql.all<{ id: number }>('SELECT id FROM product').map(({ id }) => id))
            .map(subjectOf);
          for (const when of conditions) {
            const found = [...matcher.match(when).members()].map((place) => table.slugs[place]);
            const rows = sql.db.prepare(`SELECT slug FROM product p WHERE ${asSql(when)} ORDER BY position`).all() as {
              slug: string;
            }[];
            expect(found, JSON.stringify(when)).toEqual(rows.map(({ slug }) => slug));
            const rule: Rule = { id: 'x', kind: 'product', alternate: 'a', when, from: null, to: null, note: '' };
            const choose = chooser({ alternates: [], pins: [], rules: [rule] }, () => true, today, definitions);
            const alone = seen.filter(
              (one) => one && choose.choose({ kind: 'product' }, one.slug, one.facts).rule === 'x',
            );
            expect(new Set(alone.map((one) => one?.slug)), JSON.stringify(when)).toEqual(new Set(found));
          }
          sql.db.close();
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('who gets what', () => {
  let shop: Shop;
  let sql: Statements;
  const rule = (id: string, when: Condition, more: Partial<Rule> = {}): Rule => ({
    id,
    kind: 'product',
    alternate: id,
    when,
    from: null,
    to: null,
    note: '',
    ...more,
  });
  const rules = [
    rule('a', { fact: 'tag', test: 'is', value: ['deck'] }),
    rule('b', {
      any: [
        { fact: 'type', test: 'is', value: ['rope'] },
        { fact: 'tag', test: 'is', value: ['deck'] },
      ],
    }),
    rule('c', { fact: 'added', test: 'last', value: 30 }, { from: '2026-11-01', to: '2026-12-10' }),
  ];
  const ask = (more: Partial<CoverAsk> = {}): CoverAsk => ({
    alternates: { alternates: [], pins: [{ kind: 'product', slug: 'p2', alternate: 'b' }], rules },
    target: { kind: 'product' },
    table: factTable(sql, 'product', wish),
    exists: () => true,
    today,
    definitions,
    ...more,
  });
  const base = { brand: null, price: 100, stock: 1, categories: [], lay: null, load: null, spliced: null };
  beforeEach(() => {
    shop = new Shop(':memory:');
    sql = shop.sql;
    fill(sql, [
      { ...base, type: 'rope', added: '2026-01-01', tags: [0] },
      { ...base, type: 'rope', added: '2026-01-01', tags: [] },
      { ...base, type: 'book', added: '2026-01-01', tags: [0] },
      { ...base, type: 'book', added: '2026-11-20', tags: [] },
      { ...base, type: 'book', added: '2026-11-01', tags: [1] },
    ]);
  });

  it('counts pins, rules and the rest, and what each rule holds for', () => {
    const coverage = cover(ask());
    const gets = coverage.ask.table.slugs.map(
      (slug, place) => `${slug} ${coverage.wayOf(place).template} ${coverage.wayOf(place).because}`,
    );
    expect(gets).toEqual([
      'p0 product/a rule',
      'p1 product/b rule',
      'p2 product/b pin',
      'p3 product/c rule',
      'p4 product/c rule',
    ]);
    expect(coverage.rules.map(({ holds, decides }) => [holds, decides])).toEqual([
      [2, 1],
      [3, 1],
      [2, 2],
    ]);
    expect(coverage.computed).toBe(5);
  });

  it('after a change to one product works out only that one, to the same as from scratch', () => {
    const coverage = cover(ask());
    const before = coverage.computed;
    sql.run("DELETE FROM product_tag WHERE product_id = (SELECT id FROM product WHERE slug = 'p0')");
    const { id } = sql.get<{ id: number }>("SELECT id FROM product WHERE slug = 'p0'") as { id: number };
    const [changed] = new World(new StoredCatalogue(sql), (path) => path, '/').productsById([id]);
    const subject = subjectOf(changed);
    coverage.ask.table.put(0, subject?.facts ?? (() => null));
    coverage.update([0]);
    expect(coverage.computed - before).toBe(1);
    const fresh = cover(ask());
    expect(coverage.ask.table.slugs.map((_, place) => coverage.wayOf(place))).toEqual(
      fresh.ask.table.slugs.map((_, place) => fresh.wayOf(place)),
    );
    expect(coverage.rules).toEqual(fresh.rules);
    // What was put over the columns is matched as well.
    const again = cover({ ...ask(), table: coverage.ask.table });
    expect(again.rules).toEqual(fresh.rules);
  });

  it('makes one query for each fact that rules ask for, and one for the tags’ names, however many products', () => {
    const asked = ask();
    const before = sql.count;
    cover(asked);
    expect(sql.count - before).toBe(4);
  });

  it('tells what will switch, and when', () => {
    const found = switches(ask(), 30);
    // p4 came in on 1 November: on the 30th it is no more among the last 30 days; p3 until the rule is over, on the 11th.
    expect(found.map(({ day, places, rules: by }) => [day, places, by])).toEqual([
      ['2026-12-01', [4], ['c']],
      ['2026-12-11', [3], ['c']],
    ]);
    expect(switches(ask({ alternates: { alternates: [], pins: [], rules: rules.slice(0, 2) } }), 30)).toEqual([]);
  });

  it('retires a tag: only its products change', () => {
    const { revision } = sql.get<{ revision: number }>('SELECT revision FROM catalogue_state') as { revision: number };
    expect(retireTag(shop, 'deck', { at: '2026-11-28T10:00:00.000Z', by: 'Robin' })?.had).toBe(2);
    expect(retireTag(shop, 'deck', { at: '2026-11-28T10:00:00.000Z', by: 'Robin' })).toBeNull();
    expect(
      sql.all<{ slug: string }>('SELECT slug FROM product WHERE revision > ?', revision).map(({ slug }) => slug),
    ).toEqual(['p0', 'p2']);
    expect(cover(ask()).rules.map(({ holds }) => holds)).toEqual([0, 2, 2]);
  });

  it('a category below itself hangs nothing', () => {
    sql.run('UPDATE category SET parent_id = 3 WHERE id = 1');
    sql.run('INSERT INTO product_category (product_id, category_id) VALUES (1, 2)');
    const matched = (slug: string) => [
      ...new Matcher(factTable(sql, 'product', wish), today)
        .match({ fact: 'category', test: 'is', value: [slug] })
        .members(),
    ];
    expect(['goods', 'ropes', 'thin', 'books'].map(matched)).toEqual([[0], [0], [0], []]);
    const table = factTable(sql, 'category', wish);
    expect([...new Matcher(table, today).match({ fact: 'level', test: 'at-least', value: 3 }).members()].length).toBe(
      3,
    );
  });
});

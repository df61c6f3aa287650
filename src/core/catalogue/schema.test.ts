import { describe, expect, it } from 'vitest';
import { demoShop } from '@/server/testing/demo-shop';
import { formatFor, isRecord, record, type Money, type RecordValue } from '@/core/language';
import type { Render } from '../language/4-render/render';
import { helpers } from '../language/4-render/runtime';
import type { FilterContext } from '../language/filters/filter';
import { splitBy } from '../language/filters/tiles';
import { makeArticles } from '../storefront/articles';
import { makeListing } from '../storefront/listing';
import { makeCart } from './cart';
import { listingSettings, lookOf } from '../theme/look';
import { World } from './world';
import { objectSchema } from './schema';

const shop = demoShop();
shop.sql.run("INSERT INTO article (slug, title, body, added) VALUES ('first', 'First', '<p>a</p>', '2026-01-01')");
const source = shop.catalogue();
const world = new World(source, (path) => path, '/');
const look = lookOf(['{"listings":{"default":{"page_size":5}}}']);
const settings = (kind: Parameters<typeof listingSettings>[1]) => listingSettings(look, kind);
const rope = source.productBySlug('tarred-hemp-rope');
const [product] = rope ? world.products([rope]) : [];
const listing = makeListing(world, {
  kind: 'all',
  title: 'All',
  path: '/',
  filter: {},
  query: {},
  settings,
});
const context: FilterContext = {
  format: formatFor('en-GB'),
  services: { phrase: () => null },
  print: String,
  charge: () => {},
  work: () => {},
};
const asking = { ...context, ask: (question: object) => record({ ...question, value: null, problem: null }) };
const first = (list: unknown) => (list as unknown[])[0] as RecordValue;

const kept = { name: 'Rope', price: 1, answers: [] };
const cart = makeCart(world, {
  lines: [
    {
      ...kept,
      id: 1,
      product: 'tarred-hemp-rope',
      sku: 'WQ-THR-3',
      quantity: 3,
      answers: [{ name: 'end', label: 'Rope end', value: 'Whipped' }],
    },
    { ...kept, id: 2, product: 'deck-oil', sku: 'gone', quantity: 1 },
    { ...kept, id: 3, product: 'gone', sku: 'gone', quantity: 1 },
  ],
  order: { number: '1001', total: 100, count: 1 },
});

/** One object of each type of the catalogue. */
const samples: Record<string, RecordValue | null | undefined> = {
  Product: product,
  Variant: product?.variants[0],
  Option: product?.options[0],
  OptionValue: first(product?.options[0]?.values),
  Media: product?.media[0],
  Category: world.categoryBySlug('rope-and-cord'),
  Listing: listing,
  PagerItem: first(listing?.pager),
  Choice: first(listing?.sorts),
  Tag: first(product?.tags),
  Brand: product?.brand as unknown as RecordValue,
  Attribute: first(product?.attributes),
  Content: world.content('care'),
  MenuItem: world.menu('main')[0],
  Article: world.article('first'),
  Tile: first(splitBy.run(context, product ? [product] : [], 'colour')),
  Cart: cart,
  CartLine: first(cart.lines),
  Answer: first(first(cart.lines).answers),
  Question: helpers.ask({ $name: 'end', $label: 'End' }, asking as unknown as Render),
  Filter: first(listing?.filters),
  FilterValue: first(first(listing?.filters).values),
  ArticleListing: makeArticles(world, {}, settings('articles')),
  Change: first(cart.changes),
  Order: cart.order as unknown as RecordValue,
  Position: helpers.pos(['a'], 0),
};

/** Names in reach of a template on an object: its own and its class’s. */
function reachable(value: object): string[] {
  const names = new Set<string>();
  for (let at: object | null = value; at; at = Object.getPrototypeOf(at) as object | null)
    for (const name of Object.getOwnPropertyNames(at)) names.add(name);
  return [...names].sort();
}

describe('objects and their schema hold each other', () => {
  for (const [type, value] of Object.entries(samples)) {
    it(type, () => {
      expect(isRecord(value)).toBe(true);
      expect(reachable(value as object)).toEqual(Object.keys(objectSchema[type] ?? {}).sort());
    });
  }
  it('a cart adds up in whole minor units, at the prices of now; what is gone costs nothing and is told', () => {
    const [line, ...rest] = cart.lines as RecordValue[];
    const price = (line?.price as Money).amount;
    expect([rest.length, cart.count, (cart.total as Money).amount, cart.ready]).toEqual([2, 5, 3 * price, false]);
    expect((cart.changes as RecordValue[]).map(({ kind, blocks }) => [kind, blocks])).toEqual([
      ['dearer', false],
      ['gone', true],
      ['gone', true],
    ]);
    expect(price).toBe(shop.sql.get<{ price: number }>("SELECT price FROM variant WHERE sku = 'WQ-THR-3'")?.price);
  });
  it('a listing’s tiles stand for its products; its views keep all else of the address', () => {
    expect((listing?.tiles as RecordValue[]).map((tile) => (tile.product as RecordValue).slug)).toEqual(
      (listing?.products as RecordValue[]).map((one) => one.slug),
    );
    const query = { sort: 'name', view: 'list' };
    const made = makeListing(world, {
      kind: 'all',
      title: 'All',
      path: '/listing/all',
      filter: {},
      query,
      settings,
    });
    expect((made?.views as RecordValue[]).map(({ name, url, selected }) => [name, url, selected])).toEqual([
      ['grid', '/listing/all?sort=name', false],
      ['list', '/listing/all?sort=name&view=list', true],
    ]);
  });
  it('every type that a field names is there', () => {
    const plain = new Set([
      'Text',
      'Number',
      'Flag',
      'Money',
      'Day',
      'Html',
      'Record',
      'Any',
      'ProductFields',
      'CategoryFields',
      'ContentFields',
      'ArticleFields',
    ]);
    for (const fields of Object.values(objectSchema))
      for (const { type } of Object.values(fields)) {
        const one = type.replace(/^List of /, '');
        expect(plain.has(one) || one in objectSchema).toBe(true);
      }
  });
});

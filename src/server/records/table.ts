import { fold, Matcher, type Condition, type FactTable } from '@/core/alternates';
import { Bits, subjectOf, World, type FactName, type Facts, type FactValue } from '@/core/catalogue';
import { cellOf, readTarget, type Target, type WholeProduct } from '@/core/exchange';
import type { CellsAsk, TableAnswer } from '@/contract/records';
import type { Shop } from '@/server/shop';
import { today } from '@/server/storefront';
import { catalogueState, changedProducts, factTable, productIds, productsFound, RecordReader } from '@/store';
import { cellContext } from './cell-context';

/** When more products than this changed one by one, all are read again. */
const maxPatched = 1000;
/** Orders of all products that are kept. */
const maxOrders = 12;

type Key = string | number | null;

/** Products in the order of one column: what each is ordered by, and their places in that order. */
interface Order {
  keys: Key[];
  places: Int32Array;
}

/** All products in columns, as they are at a revision; `ids` are their numbers in the order of the places. */
interface Columns {
  revision: number;
  ids: number[];
  table: FactTable;
  orders: Map<string, Order>;
}

/** What a column is ordered by, as a fact; null: it has no order. */
export function factOfColumn({ part, name, locale }: Target): FactName | null {
  if (locale !== null) return null;
  if (part === 'field' || part === 'attribute') return { fact: part, name: name ?? '' };
  const same: Record<string, string> = { product: 'slug' };
  const ordered = [
    'name',
    'type',
    'summary',
    'brand',
    'price',
    'was_price',
    'stock',
    'added',
    'live',
    'gtin',
    'product_sku',
    'pictures',
  ];
  return part in same ? { fact: same[part] as string } : ordered.includes(part) ? { fact: part } : null;
}

const plain = /^[\x20-\x7e]*$/;

/** Texts without regard to capitals and accents, so that É stands beside E; nothing comes last. */
const keyOf = (value: FactValue): Key =>
  typeof value === 'string'
    ? fold(plain.test(value) ? value : value.normalize('NFD').replace(/\p{M}/gu, ''))
    : typeof value === 'number'
      ? value
      : null;

const compare = (a: Key, b: Key): number => (a === b ? 0 : a === null ? 1 : b === null ? -1 : a < b ? -1 : 1);

/**
 * All products as a table: what is searched, filtered and sorted by is kept in columns, and brought up to the catalogue's revision product by
 * product. Rows are read when they are shown.
 */
export class GoodsTable {
  #read: Columns | null = null;

  constructor(readonly shop: Shop) {}

  /** Some rows of the table, and how many there are. */
  page({ search, where, sort, columns, from, count }: CellsAsk): TableAnswer {
    const { ids, table, revision } = this.#now();
    const held = this.#held(search, where, ids, table);
    const order = this.#order(sort?.column ?? '');
    const places = sort?.down ? downwards(order) : order.places;
    const total = held?.count() ?? table.size;
    const shown: number[] = [];
    let at = 0;
    for (const place of places) {
      if (held && !held.has(place)) continue;
      if (at++ < from) continue;
      shown.push(place);
      if (shown.length >= count) break;
    }
    return {
      revision,
      total,
      all: table.size,
      rows: this.rows(
        shown.map((place) => table.slugs[place] as string),
        columns,
      ),
    };
  }

  /** Slugs of all rows, in no order: what a change of many is done to. */
  slugs({ search, where }: Pick<CellsAsk, 'search' | 'where'>): string[] {
    const { ids, table } = this.#now();
    const held = this.#held(search, where, ids, table);
    return held ? table.slugs.filter((_, place) => held.has(place)) : [...table.slugs];
  }

  /** Cells of these products, in the order of the slugs; those that are gone are left out. */
  rows(slugs: readonly string[], columns: readonly string[]): TableAnswer['rows'] {
    return rowsOf(this.shop, slugs, columns);
  }

  #held(search: string, where: Condition | null, ids: readonly number[], table: FactTable): Bits | null {
    const held = where ? new Matcher(table, today()).match(where).copy() : null;
    if (!search.trim()) return held;
    const found = new Bits(table.size);
    for (const id of productsFound(this.shop.sql, search)) {
      const place = placeOf(ids, id);
      if (place >= 0) found.add(place);
    }
    return held ? held.keep(found) : found;
  }

  /** The columns as the catalogue is now. */
  #now() {
    const { sql } = this.shop;
    const { revision, whole } = catalogueState(sql);
    const read = this.#read;
    if (read && read.revision !== revision && read.revision >= whole && this.#patch(read)) read.revision = revision;
    if (read?.revision === revision) return read;
    const fresh = {
      revision,
      ids: productIds(sql),
      table: factTable(sql, 'product', { searches: [], withCategories: false }),
      orders: new Map<string, Order>(),
    };
    this.#read = fresh;
    return fresh;
  }

  /** Puts in the products that changed, one by one; false where all have to be read again. */
  #patch({ revision, ids, table, orders }: Columns): boolean {
    const changed = changedProducts(this.shop.sql, revision, maxPatched + 1);
    if (changed.length + table.changed.size > maxPatched) return false;
    const places = changed.map((id) => placeOf(ids, id));
    if (places.includes(-1)) return false;
    const source = this.shop.catalogue();
    const records = new RecordReader(source).read(
      'product',
      places.map((place) => table.slugs[place] as string),
    );
    const world = new World(source, (path) => path, '/');
    for (const product of world.productsById(changed)) {
      const subject = subjectOf(product);
      const record = subject && records.get(subject.slug);
      const [place] = subject ? table.placesOf(subject.slug) : [];
      if (!subject || !record || place === undefined) return false;
      const position = table.factsAt(place)({ fact: 'position' });
      table.put(place, factsWith(record as unknown as WholeProduct, position, subject.facts));
    }
    for (const [column, order] of orders) {
      const fact = factOf(column);
      for (const place of places) order.keys[place] = keyOf(table.factsAt(place)(fact));
      order.places = sortedAgain(order, places);
    }
    return true;
  }

  #order(column: string): Order {
    const { table, orders } = this.#now();
    const known = orders.get(column);
    if (known) return known;
    const fact = factOf(column);
    const keys = Array.from({ length: table.size }, (_, place) => keyOf(table.factsAt(place)(fact)));
    const order = { keys, places: sorted(keys) };
    if (orders.size >= maxOrders) orders.delete(orders.keys().next().value as string);
    orders.set(column, order);
    return order;
  }
}

/** Places in the order of their keys, those of one key as they stand, those that have none last. */
function sorted(keys: readonly Key[]): Int32Array {
  const filled = [...keys.keys()].filter((place) => keys[place] !== null) as number[];
  const own = keys as readonly string[];
  filled.sort((a, b) => ((own[a] as string) < (own[b] as string) ? -1 : own[a] === own[b] ? a - b : 1));
  const all = new Int32Array(keys.length);
  all.set(filled);
  let at = filled.length;
  for (let place = 0; place < keys.length; place++) if (keys[place] === null) all[at++] = place;
  return all;
}

/** What a column is ordered by; what has no order stands as in the catalogue. */
const factOf = (column: string): FactName => {
  const target = readTarget(column);
  return (target && factOfColumn(target)) ?? { fact: 'position' };
};

/** Facts of a product, with those that no rule asks for. */
function factsWith(record: WholeProduct, position: FactValue, facts: Facts): Facts {
  const [lowest] = [...record.variants].sort((a, b) => a.price - b.price);
  const own: Record<string, FactValue> = {
    name: record.name,
    summary: record.summary,
    gtin: record.gtin,
    live: record.live !== false,
    product_sku: record.sku,
    description: record.description.slice(0, 1),
    pictures: record.media.length || null,
    was_price: lowest?.wasPrice ?? null,
    position,
  };
  return (asked) => (asked.fact in own ? (own[asked.fact] ?? null) : facts(asked));
}

/** The same from the last to the first; those that have nothing stay last. */
function downwards({ keys, places }: Order): Int32Array {
  const end = places.findIndex((place) => keys[place] === null);
  const filled = end < 0 ? places.length : end;
  const down = places.slice();
  down.subarray(0, filled).reverse();
  return down;
}

/** The order after the keys of some places changed. */
function sortedAgain({ keys, places }: Order, changed: readonly number[]): Int32Array {
  const moving = new Set(changed);
  const before = (a: number, b: number) => compare(keys[a] as Key, keys[b] as Key) || a - b;
  const stay = places.filter((place) => !moving.has(place));
  const come = [...moving].sort(before);
  const sorted = new Int32Array(places.length);
  let [from, next] = [0, 0];
  for (let at = 0; at < sorted.length; at++) {
    const [one, other] = [stay[from], come[next]];
    const takes = other !== undefined && (one === undefined || before(other, one) < 0);
    sorted[at] = (takes ? other : one) as number;
    if (takes) next++;
    else from++;
  }
  return sorted;
}

/** Place of a number in a sorted list; -1: it is not there. */
function placeOf(ids: readonly number[], id: number): number {
  let [low, high] = [0, ids.length - 1];
  while (low <= high) {
    const middle = (low + high) >>> 1;
    const one = ids[middle] as number;
    if (one === id) return middle;
    if (one < id) low = middle + 1;
    else high = middle - 1;
  }
  return -1;
}

/** Cells of products as they are now, in the order of the slugs; those that are gone are left out. */
export function rowsOf(shop: Shop, slugs: readonly string[], columns: readonly string[]): TableAnswer['rows'] {
  const reader = new RecordReader(shop.catalogue());
  const context = cellContext(shop);
  const targets = columns.flatMap((column) => {
    const target = readTarget(column);
    return target ? [{ column, target }] : [];
  });
  const records = reader.read('product', slugs);
  return slugs.flatMap((slug) => {
    const record = records.get(slug) as unknown as WholeProduct | undefined;
    if (!record) return [];
    const cells = targets.map(({ column, target }) => [column, cellOf(record, target, context)] as const);
    return [{ slug, name: record.name, live: record.live !== false, cells: Object.fromEntries(cells) }];
  });
}

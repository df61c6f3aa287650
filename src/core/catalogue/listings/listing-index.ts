import { LRUCache } from 'lru-cache';
import type { ListingSort, ProductFilter } from '../rows';
import { Bits } from './bits';
import type { Columns } from './columns';
import { Lines, mark, type Property, type Split } from './lines';
import { linesOfProducts, namesByPlace, sorted, type Names } from './orders';
import { priceRanges, within, type PriceRange } from './prices';
import { put } from './put';

export type { Names, Split };

/** What a customer has chosen of a listing: values of one group widen, groups narrow. */
export interface Chosen {
  options: Record<string, readonly string[]>;
  tags: readonly number[];
  brands: readonly number[];
  /** From (included) to (not included; null: no end), in minor units. */
  prices: readonly PriceRange[];
  inStock: boolean;
}

export interface ListQuery {
  filter: ProductFilter;
  /** Ids that a search found, best first. */
  found?: readonly number[] | null;
  chosen?: Chosen | null;
  sort: ListingSort;
  /** Names in the language of the page, for the order by name. */
  names: Names;
  offset: number;
  limit: number;
}

type Base = Pick<ListQuery, 'filter' | 'found'>;

/** One line of a listing: a product, or the tile of one of its values. */
export interface IndexRow {
  productId: number;
  /** Slug of the value; null for a product that is not split. */
  value: string | null;
}

/** How many lines a listing would have with a value chosen besides what is chosen of the other groups. */
export interface Counts {
  options: Map<string, Map<string, number>>;
  tags: Map<number, number>;
  brands: Map<number, number>;
  prices: { from: number; to: number | null; count: number }[];
  inStock: number;
}

const nothing: Chosen = { options: {}, tags: [], brands: [], prices: [], inStock: false };

/** What is chosen of one group of properties. */
type Group = Property & { name: string };

/** Lines in an order; of that by name, the names that it was made from. */
interface Order {
  lines: Int32Array;
  names: readonly (string | undefined)[] | null;
  /** It was made before prices or names changed. */
  isOld: boolean;
}

/** Sets that were worked out and may be wanted again; bounded, so that nobody can fill the memory by trying addresses. */
const maxCached = 200;

/**
 * All lines that listings are made of, in memory: which are in a category, have a tag, come in a colour. Listings, their
 * orders and the counts beside their filters are worked out on sets of bits, so that a catalogue a hundred times as large
 * does not take a hundred times as long. A choice of several properties holds only for a line with a variant that has all
 * of them: navy in 8 mm and red in 12 mm is not “navy, 12 mm”.
 * Longer than most files: lists and counts work on the same sets.
 */
export class ListingIndex {
  readonly #of: Lines;
  readonly #orders = new Map<string, Order>();
  readonly #cached = new LRUCache<string, { value: unknown }>({ max: maxCached });

  constructor(
    columns: Columns | Lines,
    readonly split: Split | null = null,
    idOf?: (slug: string) => number | undefined,
  ) {
    this.#of = columns instanceof Lines ? columns : new Lines(columns, split, idOf);
  }

  /** What it was made from. */
  get columns(): Columns {
    return this.#of.columns;
  }

  /** The same index with new prices and stock of some products: what depends on neither is kept. */
  withFigures(columns: Columns, ids: readonly number[]): ListingIndex {
    const places = ids.flatMap((id) => columns.placeOf(id) ?? []);
    const next = new ListingIndex(this.#of.withFigures(columns, places), this.split);
    for (const [key, order] of this.#orders)
      if (!key.startsWith('price')) next.#orders.set(key, { ...order, isOld: true });
    return next;
  }

  /** Lines in an order. Names may have changed since it was made: it is made again where they have. */
  #order(sort: ListingSort, names: Names): Int32Array {
    const key = sort === 'name' ? `name ${names.locale}` : sort;
    const before = this.#orders.get(key);
    if (before && !(before.isOld && before.names)) return before.lines;
    const named = sort === 'name' ? namesByPlace(this.#of, names) : null;
    const isSame = before?.names?.every((name, place) => name === named?.[place]) ?? false;
    const lines = before && isSame ? before.lines : sorted(this.#of, sort, names.locale, named ?? []);
    this.#orders.set(key, { lines, names: named, isOld: false });
    return lines;
  }

  get size(): number {
    return this.#of.size;
  }

  #remembered<T>(key: string, make: () => T): T {
    let found = this.#cached.get(key);
    if (!found) this.#cached.set(key, (found = { value: make() }));
    return found.value as T;
  }

  /** One page of a listing, and how many lines it has on all of them. */
  list(query: ListQuery): { rows: IndexRow[]; count: number } {
    const lines = this.#lines(query, query.chosen ?? nothing);
    const rows: IndexRow[] = [];
    const { sort, found, names } = query;
    const order = sort === 'match' && found ? linesOfProducts(this.#of, found) : this.#order(sort, names);
    let left = query.offset;
    for (let at = 0; at < order.length && rows.length < query.limit; at++) {
      const line = order[at] as number;
      if (!lines.has(line) || left-- > 0) continue;
      const productId = this.#of.columns.productIds[this.#of.product[line] as number] as number;
      rows.push({ productId, value: this.#of.value[line] ?? null });
    }
    return { rows, count: lines.count() };
  }

  /** How many lines a listing has. */
  count(query: Base, chosen: Chosen = nothing): number {
    return this.#lines(query, chosen).count();
  }

  #lines(query: Base, chosen: Chosen): Bits {
    const base = this.#base(query);
    const groups = this.#groups(chosen);
    if (!groups.length && !chosen.tags.length && !chosen.brands.length) return base;
    return this.#matching(query, this.#narrowed(base, chosen, null), groups).lines;
  }

  /** Counts beside each value of each filter. A group's own choice does not count against its other values. */
  counts(query: Base, chosen: Chosen = nothing): Counts {
    if (query.found) return this.#count(query, chosen);
    // Pages, orders and views of a listing share its counts.
    return this.#remembered(`counts ${JSON.stringify([query.filter, chosen])}`, () => this.#count(query, chosen));
  }

  #count(query: Base, chosen: Chosen): Counts {
    const base = this.#base(query);
    const groups = this.#groups(chosen);
    const narrowed = this.#narrowed(base, chosen, null);
    const whole = this.#matching(query, narrowed, groups);
    /** What is left with a group's own choice left out; the same as the whole where nothing is chosen of it. */
    const without = (name: string): Match =>
      groups.some((group) => group.name === name)
        ? this.#matching(
            query,
            narrowed,
            groups.filter((group) => group.name !== name),
          )
        : whole;
    // With nothing chosen but of the group itself, its counts are those of the whole listing.
    const tallied = (match: Match) =>
      match.lines === base && !query.found
        ? this.#remembered(`tally ${JSON.stringify(query.filter)}`, () => this.#tally(match))
        : this.#tally(match);
    const { codes } = this.#of.columns;
    const matches = new Map<string, Match>();
    const options = new Map<string, Map<string, number>>();
    const tally = new Map<Match, Int32Array>();
    codes.forEach(({ option, value }, code) => {
      const match = put(matches, option, () => without(`option ${option}`));
      const found = put(tally, match, () => tallied(match))[code];
      if (found || chosen.options[option]?.includes(value))
        put(options, option, () => new Map<string, number>()).set(value, found ?? 0);
    });
    const of = (property: Property, match: Match) =>
      match.variants ? this.#distinct(property.variants, match.variants()) : property.lines.countWith(match.lines);
    const priced = without('price');
    const linesFor = (leftOut: 'tags' | 'brands') =>
      chosen[leftOut].length ? this.#matching(query, this.#narrowed(base, chosen, leftOut), groups).lines : whole.lines;
    const ofBrands = linesFor('brands');
    const brands = new Map<number, number>();
    for (const [id, lines] of this.#of.brands) {
      const count = lines.countWith(ofBrands);
      if (count || chosen.brands.includes(id)) brands.set(id, count);
    }
    return {
      options,
      tags: this.#tagCounts(linesFor('tags'), chosen.tags),
      brands,
      prices: this.#priceCounts(this.#ranges(query, base), priced),
      inStock: of(this.#of.inStock, without('stock')),
    };
  }

  /** The lines of a listing before anything is chosen. Not to be changed. */
  #base({ filter, found }: Base): Bits {
    const work = () => {
      const bits = Bits.full(this.#of.size);
      const { categoryId, tagId, brandId, type, offer } = filter;
      if (categoryId !== undefined) bits.keep(this.#of.categories.get(categoryId) ?? this.#of.none());
      if (tagId !== undefined) bits.keep(this.#of.tags.get(tagId) ?? this.#of.none());
      if (brandId !== undefined) bits.keep(this.#of.brands.get(brandId) ?? this.#of.none());
      if (offer) bits.keep(this.#of.offers);
      if (type !== undefined) bits.keep(this.#of.types.get(type) ?? this.#of.none());
      return bits;
    };
    if (!found) return this.#remembered(`base ${JSON.stringify(filter)}`, work);
    const among = this.#of.none();
    for (const id of found) {
      const place = this.#of.columns.placeOf(id);
      if (place !== undefined) this.#of.mark(among, place);
    }
    return among.keep(work());
  }

  /** A base without the lines that lack what is chosen of tags and brands; one of them left out. */
  #narrowed(base: Bits, chosen: Chosen, leftOut: 'tags' | 'brands' | null): Bits {
    const tags = leftOut === 'tags' ? [] : chosen.tags;
    const brands = leftOut === 'brands' ? [] : chosen.brands;
    if (!tags.length && !brands.length) return base;
    const lines = base.copy();
    if (tags.length) lines.keep(joined(this.#of.none(), this.#of.tags, tags));
    if (brands.length) lines.keep(joined(this.#of.none(), this.#of.brands, brands));
    return lines;
  }

  /** What is chosen of variants' properties: options, price, stock. */
  #groups(chosen: Chosen): Group[] {
    const groups: Group[] = [];
    const add = (name: string, properties: Property[]): void => {
      const [only, ...more] = properties;
      if (only && !more.length) groups.push({ name, ...only });
      else if (only) {
        const any = { name, ...this.#of.property() };
        for (const { variants, lines } of properties) {
          any.variants.join(variants);
          any.lines.join(lines);
        }
        groups.push(any);
      }
    };
    for (const [option, values] of Object.entries(chosen.options)) {
      const codes = this.#of.columns.codes.flatMap((code, at) =>
        code.option === option && values.includes(code.value) ? [this.#of.codes[at] as Property] : [],
      );
      // What no product has holds for none.
      if (values.length) add(`option ${option}`, codes.length ? codes : [this.#of.property()]);
    }
    add(
      'price',
      chosen.prices.map((range) => this.#priced(range)),
    );
    if (chosen.inStock) add('stock', [this.#of.inStock]);
    return groups;
  }

  /** Lines with a variant that all groups hold for, and those variants; without groups the lines alone. */
  #matching(query: Base, lines: Bits, groups: Group[]): Match {
    // All variants of a line are of the value that it stands for: such a choice is one of lines.
    const own = this.split && `option ${this.split.option}`;
    const narrowed = groups.some(({ name }) => name === own) ? lines.copy() : lines;
    for (const group of groups) if (group.name === own) narrowed.keep(group.lines);
    const rest = groups.filter(({ name }) => name !== own);
    const [first] = rest;
    if (!first) return { lines: narrowed, variants: null, stockOnly: false };
    const variants = () => {
      const bits = this.#variantsOf(query, lines).copy();
      for (const group of groups) bits.keep(group.variants);
      return bits;
    };
    if (rest.length === 1) {
      const having = narrowed === lines ? lines.copy() : narrowed;
      return { lines: having.keep(first.lines), variants: later(variants), stockOnly: first.name === 'stock' };
    }
    const found = variants();
    const having = this.#of.none();
    const members = found.members();
    for (let n = 0; n < members.length; n++) having.add(this.#of.line[members[n] as number] as number);
    return { lines: having, variants: () => found, stockOnly: false };
  }

  /** The variants of these lines. */
  #variantsOf({ filter, found }: Base, lines: Bits): Bits {
    const work = (of: Bits) => {
      const bits = new Bits(this.#of.variant.length);
      const members = of.members();
      for (let n = 0; n < members.length; n++) {
        const line = members[n] as number;
        for (let at = this.#of.start[line] as number; at < (this.#of.start[line + 1] as number); at++) bits.add(at);
      }
      return bits;
    };
    const base = this.#cached.get(`base ${JSON.stringify(filter)}`)?.value;
    if (found || base !== lines) return work(lines);
    return this.#remembered(`variants ${JSON.stringify(filter)}`, () => work(lines));
  }

  /** For each code: how many lines of a match have a variant with it that matches. */
  #tally({ lines, variants, stockOnly }: Match): Int32Array {
    const counts = new Int32Array(this.#of.codes.length);
    if (!variants || stockOnly) {
      const { start, items } = stockOnly ? this.#of.stockedCodes : this.#of.allCodes;
      const members = lines.members();
      for (let n = 0; n < members.length; n++) {
        const line = members[n] as number;
        const end = start[line + 1] as number;
        for (let at = start[line] as number; at < end; at++) (counts[items[at] as number] as number)++;
      }
      return counts;
    }
    const last = new Int32Array(this.#of.codes.length).fill(-1);
    const { start, items } = this.#of.columns.valueCodes;
    const members = variants().members();
    for (let n = 0; n < members.length; n++) {
      const at = members[n] as number;
      const place = this.#of.variant[at] as number;
      if (place < 0) continue;
      const line = this.#of.line[at] as number;
      for (let v = start[place] as number; v < (start[place + 1] as number); v++) {
        const code = items[v] as number;
        if (last[code] === line) continue;
        last[code] = line;
        (counts[code] as number)++;
      }
    }
    return counts;
  }

  #tagCounts(lines: Bits, chosen: readonly number[]): Map<number, number> {
    const { start, items } = this.#of.columns.tags;
    const found = new Int32Array(Math.max(0, ...this.#of.tags.keys()) + 1);
    const members = lines.members();
    for (let n = 0; n < members.length; n++) {
      const place = this.#of.product[members[n] as number] as number;
      for (let at = start[place] as number; at < (start[place + 1] as number); at++)
        (found[items[at] as number] as number)++;
    }
    const counts = new Map<number, number>();
    for (const id of this.#of.tags.keys()) if (found[id] || chosen.includes(id)) counts.set(id, found[id] ?? 0);
    return counts;
  }

  /** Lines that have a variant in both sets. */
  #distinct(some: Bits, others: Bits): number {
    let count = 0;
    let last = -1;
    const members = some.members(others);
    for (let n = 0; n < members.length; n++) {
      const line = this.#of.line[members[n] as number] as number;
      if (line === last) continue;
      last = line;
      count++;
    }
    return count;
  }

  #priced(range: PriceRange): Property {
    return this.#remembered(`price ${range[0]} ${range[1]}`, () => {
      const property = this.#of.property();
      const { price } = this.#of.columns;
      for (let at = 0; at < this.#of.variant.length; at++) {
        const place = this.#of.variant[at] as number;
        if (place >= 0 && within(price[place] as number, range)) mark(property, at, this.#of.line[at] as number);
      }
      return property;
    });
  }

  /** How many lines have a variant in each of these ranges, which follow one another. */
  #priceCounts(ranges: PriceRange[], { lines, variants }: Match): Counts['prices'] {
    const counts = ranges.map(([from, to]) => ({ from, to, count: 0 }));
    if (!variants) {
      for (const range of counts) range.count = this.#priced([range.from, range.to]).lines.countWith(lines);
      return counts;
    }
    const last = new Int32Array(ranges.length).fill(-1);
    const bounds = Float64Array.from(ranges, ([from]) => from);
    const found = new Int32Array(ranges.length);
    const { price } = this.#of.columns;
    const members = variants().members();
    for (let n = 0; n < members.length; n++) {
      const at = members[n] as number;
      const amount = price[this.#of.variant[at] as number] as number;
      const line = this.#of.line[at] as number;
      let range = bounds.length - 1;
      while (range > 0 && amount < (bounds[range] as number)) range--;
      if (range < 0 || last[range] === line) continue;
      last[range] = line;
      (found[range] as number)++;
    }
    counts.forEach((range, at) => (range.count = found[at] ?? 0));
    return counts;
  }

  /** Ranges of price that meet at round figures near the quarters of what the listing has, so that each holds some. */
  #ranges({ filter, found }: Base, base: Bits): PriceRange[] {
    const work = () => priceRanges(Float64Array.from(base.members(), (line) => this.#of.price[line] as number));
    return found ? work() : this.#remembered(`ranges ${JSON.stringify(filter)}`, work);
  }
}

/** Lines that match, and their variants that do; null where no property of variants is chosen. */
interface Match {
  lines: Bits;
  variants: (() => Bits) | null;
  /** Of variants only being in stock, and the value that lines stand for, is chosen: the most common choice, whose lines are known beforehand. */
  stockOnly: boolean;
}

/** Worked out when first asked for. */
function later<T>(work: () => T): () => T {
  let value: T | undefined;
  return () => (value ??= work());
}

function joined<K>(bits: Bits, groups: Map<K, Bits>, keys: readonly K[]): Bits {
  for (const key of keys) {
    const one = groups.get(key);
    if (one) bits.join(one);
  }
  return bits;
}

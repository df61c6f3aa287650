import type { ListingSort, ProductFilter } from '../rows';
import { Bits } from './bits';
import type { Columns, Grouped } from './columns';

/** Tiles by the values of an option, a further value only with so many pictures that show it. */
export interface Split {
  option: string;
  pictures: number;
}

/** What a customer has chosen of a listing: values of one group widen, groups narrow. */
export interface Chosen {
  options: Record<string, readonly string[]>;
  tags: readonly number[];
  brands: readonly number[];
  /** From (included) to (not included; null: no end), in minor units. */
  prices: readonly PriceRange[];
  inStock: boolean;
}

export type PriceRange = readonly [from: number, to: number | null];

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

export interface Names {
  locale: string;
  all(): Iterable<[productId: number, name: string]>;
}

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

/** A property of variants: those that have it, and the lines with one that has. */
interface Property {
  variants: Bits;
  lines: Bits;
}

/** What is chosen of one group of properties. */
type Group = Property & { name: string };

/** Sets that were worked out and may be wanted again; bounded, so that whoever tries addresses fills no memory. */
const mostKept = 200;

/**
 * All lines that listings are made of, in memory: which are in a category, have a tag, come in a colour. Listings, their
 * orders and the counts beside their filters are worked out on sets of bits, so that a catalogue a hundred times as large
 * does not take a hundred times as long. A choice of several properties holds only for a line with a variant that has all
 * of them: navy in 8 mm and red in 12 mm is not “navy, 12 mm”.
 */
export class ListingIndex {
  readonly #columns: Columns;
  /** Place of the product of each line, and the value that the line stands for. */
  readonly #product: Int32Array;
  readonly #value: (string | null)[] = [];
  /** First line of each product, and one more. */
  readonly #first: Int32Array;
  /** Variants by line: place among the columns' (-1 for a product without any), and the line of each. */
  readonly #variant: Int32Array;
  readonly #line: Int32Array;
  /** First variant of each line, and one more. */
  readonly #start: Int32Array;
  readonly #linePrice: Float64Array;
  readonly #inStock: Property;
  readonly #categories = new Map<number, Bits>();
  readonly #tags = new Map<number, Bits>();
  readonly #brands = new Map<number, Bits>();
  readonly #types = new Map<string, Bits>();
  /** By the columns' codes. */
  readonly #codes: Property[];
  #lineCodes: Grouped | null = null;
  #stockedCodes: Grouped | null = null;
  readonly #orders = new Map<string, Int32Array>();
  readonly #kept = new Map<string, unknown>();

  constructor(
    columns: Columns,
    readonly split: Split | null = null,
  ) {
    this.#columns = columns;
    const product: number[] = [];
    const variant: number[] = [];
    const line: number[] = [];
    const start: number[] = [];
    const first = new Int32Array(columns.productIds.length + 1);
    for (let place = 0; place < columns.productIds.length; place++) {
      first[place] = product.length;
      for (const [value, variants] of linesOf(columns, place, split)) {
        start.push(variant.length);
        for (const one of variants) {
          variant.push(one);
          line.push(product.length);
        }
        product.push(place);
        this.#value.push(value);
      }
    }
    first[columns.productIds.length] = product.length;
    start.push(variant.length);
    this.#first = first;
    this.#product = Int32Array.from(product);
    this.#variant = Int32Array.from(variant);
    this.#line = Int32Array.from(line);
    this.#start = Int32Array.from(start);
    this.#linePrice = new Float64Array(product.length).fill(NaN);
    this.#inStock = this.#property();
    this.#codes = columns.codes.map(() => this.#property());
    const { valueCodes, price, stock } = columns;
    for (let at = 0; at < variant.length; at++) {
      const place = variant[at] as number;
      const of = line[at] as number;
      if (place < 0) continue;
      if (!((price[place] as number) >= (this.#linePrice[of] as number))) this.#linePrice[of] = price[place] as number;
      if ((stock[place] as number) > 0) mark(this.#inStock, at, of);
      for (let v = valueCodes.start[place] as number; v < (valueCodes.start[place + 1] as number); v++) {
        const code = this.#codes[valueCodes.items[v] as number];
        if (code) mark(code, at, of);
      }
    }
    for (let place = 0; place < columns.productIds.length; place++) {
      this.#mark(
        put(this.#types, columns.types[place] as string, () => this.#none()),
        place,
      );
      const brand = columns.brands[place];
      if (brand !== null && brand !== undefined)
        this.#mark(
          put(this.#brands, brand, () => this.#none()),
          place,
        );
      for (const [groups, map] of [
        [columns.tags, this.#tags],
        [columns.categories, this.#categories],
      ] as const) {
        for (let at = groups.start[place] as number; at < (groups.start[place + 1] as number); at++)
          this.#mark(
            put(map, groups.items[at] as number, () => this.#none()),
            place,
          );
      }
    }
  }

  get size(): number {
    return this.#product.length;
  }

  #none(): Bits {
    return new Bits(this.#product.length);
  }

  #property(): Property {
    return { variants: new Bits(this.#variant.length), lines: this.#none() };
  }

  /** Puts all lines of a product in. */
  #mark(bits: Bits, place: number): void {
    for (let at = this.#first[place] as number; at < (this.#first[place + 1] as number); at++) bits.add(at);
  }

  #remembered<T>(key: string, make: () => T): T {
    if (this.#kept.size >= mostKept) this.#kept.clear();
    return put(this.#kept as Map<string, T>, key, make);
  }

  /** One page of a listing, and how many lines it has on all of them. */
  list(query: ListQuery): { rows: IndexRow[]; count: number } {
    const lines = this.#lines(query, query.chosen ?? nothing);
    const rows: IndexRow[] = [];
    const order = this.#order(query);
    let left = query.offset;
    for (let at = 0; at < order.length && rows.length < query.limit; at++) {
      const line = order[at] as number;
      if (!lines.has(line) || left-- > 0) continue;
      const productId = this.#columns.productIds[this.#product[line] as number] as number;
      rows.push({ productId, value: this.#value[line] ?? null });
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
    const { codes } = this.#columns;
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
    for (const [id, lines] of this.#brands) {
      const count = lines.countWith(ofBrands);
      if (count || chosen.brands.includes(id)) brands.set(id, count);
    }
    return {
      options,
      tags: this.#tagCounts(linesFor('tags'), chosen.tags),
      brands,
      prices: this.#priceCounts(this.#ranges(query, base), priced),
      inStock: of(this.#inStock, without('stock')),
    };
  }

  /** The lines of a listing before anything is chosen. Not to be changed. */
  #base({ filter, found }: Base): Bits {
    const work = () => {
      const bits = Bits.full(this.#product.length);
      const { categoryId, tagId, brandId, type } = filter;
      if (categoryId !== undefined) bits.keep(this.#categories.get(categoryId) ?? this.#none());
      if (tagId !== undefined) bits.keep(this.#tags.get(tagId) ?? this.#none());
      if (brandId !== undefined) bits.keep(this.#brands.get(brandId) ?? this.#none());
      if (type !== undefined) bits.keep(this.#types.get(type) ?? this.#none());
      return bits;
    };
    if (!found) return this.#remembered(`base ${JSON.stringify(filter)}`, work);
    const among = this.#none();
    for (const id of found) {
      const place = this.#columns.placeOf(id);
      if (place !== undefined) this.#mark(among, place);
    }
    return among.keep(work());
  }

  /** A base without the lines that lack what is chosen of tags and brands; one of them left out. */
  #narrowed(base: Bits, chosen: Chosen, leftOut: 'tags' | 'brands' | null): Bits {
    const tags = leftOut === 'tags' ? [] : chosen.tags;
    const brands = leftOut === 'brands' ? [] : chosen.brands;
    if (!tags.length && !brands.length) return base;
    const lines = base.copy();
    if (tags.length) lines.keep(joined(this.#none(), this.#tags, tags));
    if (brands.length) lines.keep(joined(this.#none(), this.#brands, brands));
    return lines;
  }

  /** What is chosen of variants' properties: options, price, stock. */
  #groups(chosen: Chosen): Group[] {
    const groups: Group[] = [];
    const add = (name: string, properties: Property[]): void => {
      const [only, ...more] = properties;
      if (only && !more.length) groups.push({ name, ...only });
      else if (only) {
        const any = { name, ...this.#property() };
        for (const { variants, lines } of properties) {
          any.variants.join(variants);
          any.lines.join(lines);
        }
        groups.push(any);
      }
    };
    for (const [option, values] of Object.entries(chosen.options)) {
      const codes = this.#columns.codes.flatMap((code, at) =>
        code.option === option && values.includes(code.value) ? [this.#codes[at] as Property] : [],
      );
      // What no product has holds for none.
      if (values.length) add(`option ${option}`, codes.length ? codes : [this.#property()]);
    }
    add(
      'price',
      chosen.prices.map((range) => this.#priced(range)),
    );
    if (chosen.inStock) add('stock', [this.#inStock]);
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
    const having = this.#none();
    const members = found.members();
    for (let n = 0; n < members.length; n++) having.add(this.#line[members[n] as number] as number);
    return { lines: having, variants: () => found, stockOnly: false };
  }

  /** The variants of these lines. */
  #variantsOf({ filter, found }: Base, lines: Bits): Bits {
    const work = (of: Bits) => {
      const bits = new Bits(this.#variant.length);
      const members = of.members();
      for (let n = 0; n < members.length; n++) {
        const line = members[n] as number;
        for (let at = this.#start[line] as number; at < (this.#start[line + 1] as number); at++) bits.add(at);
      }
      return bits;
    };
    const base = this.#kept.get(`base ${JSON.stringify(filter)}`);
    if (found || base !== lines) return work(lines);
    return this.#remembered(`variants ${JSON.stringify(filter)}`, () => work(lines));
  }

  /** For each code: how many lines of a match have a variant with it that matches. */
  #tally({ lines, variants, stockOnly }: Match): Int32Array {
    const counts = new Int32Array(this.#codes.length);
    if (!variants || stockOnly) {
      const { start, items } = stockOnly
        ? (this.#stockedCodes ??= this.#codesOfLines(this.#inStock.variants))
        : (this.#lineCodes ??= this.#codesOfLines(null));
      const members = lines.members();
      for (let n = 0; n < members.length; n++) {
        const line = members[n] as number;
        const end = start[line + 1] as number;
        for (let at = start[line] as number; at < end; at++) (counts[items[at] as number] as number)++;
      }
      return counts;
    }
    const last = new Int32Array(this.#codes.length).fill(-1);
    const { start, items } = this.#columns.valueCodes;
    const members = variants().members();
    for (let n = 0; n < members.length; n++) {
      const at = members[n] as number;
      const place = this.#variant[at] as number;
      if (place < 0) continue;
      const line = this.#line[at] as number;
      for (let v = start[place] as number; v < (start[place + 1] as number); v++) {
        const code = items[v] as number;
        if (last[code] === line) continue;
        last[code] = line;
        (counts[code] as number)++;
      }
    }
    return counts;
  }

  /** Codes of each line, each once; of some of its variants or of all. */
  #codesOfLines(some: Bits | null): Grouped {
    const lines = this.#product.length;
    const start = new Int32Array(lines + 1);
    const items: number[] = [];
    const last = new Int32Array(this.#codes.length).fill(-1);
    const { valueCodes } = this.#columns;
    for (let line = 0; line < lines; line++) {
      start[line] = items.length;
      for (let at = this.#start[line] as number; at < (this.#start[line + 1] as number); at++) {
        const place = this.#variant[at] as number;
        if (place < 0 || (some && !some.has(at))) continue;
        for (let v = valueCodes.start[place] as number; v < (valueCodes.start[place + 1] as number); v++) {
          const code = valueCodes.items[v] as number;
          if (last[code] === line) continue;
          last[code] = line;
          items.push(code);
        }
      }
    }
    start[lines] = items.length;
    return { start, items: Int32Array.from(items) };
  }

  #tagCounts(lines: Bits, chosen: readonly number[]): Map<number, number> {
    const { start, items } = this.#columns.tags;
    const found = new Int32Array(Math.max(0, ...this.#tags.keys()) + 1);
    const members = lines.members();
    for (let n = 0; n < members.length; n++) {
      const place = this.#product[members[n] as number] as number;
      for (let at = start[place] as number; at < (start[place + 1] as number); at++)
        (found[items[at] as number] as number)++;
    }
    const counts = new Map<number, number>();
    for (const id of this.#tags.keys()) if (found[id] || chosen.includes(id)) counts.set(id, found[id] ?? 0);
    return counts;
  }

  /** Lines that have a variant in both sets. */
  #distinct(some: Bits, others: Bits): number {
    let count = 0;
    let last = -1;
    const members = some.members(others);
    for (let n = 0; n < members.length; n++) {
      const line = this.#line[members[n] as number] as number;
      if (line === last) continue;
      last = line;
      count++;
    }
    return count;
  }

  #priced(range: PriceRange): Property {
    return this.#remembered(`price ${range[0]} ${range[1]}`, () => {
      const property = this.#property();
      const { price } = this.#columns;
      for (let at = 0; at < this.#variant.length; at++) {
        const place = this.#variant[at] as number;
        if (place >= 0 && within(price[place] as number, range)) mark(property, at, this.#line[at] as number);
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
    const { price } = this.#columns;
    const members = variants().members();
    for (let n = 0; n < members.length; n++) {
      const at = members[n] as number;
      const amount = price[this.#variant[at] as number] as number;
      const line = this.#line[at] as number;
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
    const work = (): PriceRange[] => {
      const prices = Float64Array.from(base.members(), (line) => this.#linePrice[line] as number);
      const known = prices.filter((price) => !Number.isNaN(price)).sort();
      if (known.length < 4) return [];
      const at = (share: number) => roundFigure(known[Math.floor(known.length * share)] as number);
      const bounds = [...new Set([at(0.25), at(0.5), at(0.75)])].filter(
        (bound) => bound > (known[0] as number) && bound <= (known[known.length - 1] as number),
      );
      if (!bounds.length) return [];
      return [0, ...bounds].map((from, n) => [from, bounds[n] ?? null] as const);
    };
    return found ? work() : this.#remembered(`ranges ${JSON.stringify(filter)}`, work);
  }

  #order({ sort, found, names }: ListQuery): Int32Array {
    if (sort !== 'match' || !found) return this.#sorted(sort, names);
    const lines: number[] = [];
    for (const id of found) {
      const place = this.#columns.placeOf(id);
      if (place === undefined) continue;
      for (let at = this.#first[place] as number; at < (this.#first[place + 1] as number); at++) lines.push(at);
    }
    return Int32Array.from(lines);
  }

  #sorted(sort: ListingSort, names: Names): Int32Array {
    return put(this.#orders, sort === 'name' ? `name ${names.locale}` : sort, () => {
      const lines = Int32Array.from(this.#product, (_, at) => at);
      const price = this.#linePrice;
      const { added, productIds } = this.#columns;
      const end = (a: number, b: number) => Number(Number.isNaN(price[a])) - Number(Number.isNaN(price[b]));
      const place = (line: number) => this.#product[line] as number;
      const later = (a: number, b: number) =>
        code(added[place(b)] as string, added[place(a)] as string) ||
        (productIds[place(b)] as number) - (productIds[place(a)] as number);
      if (sort === 'price')
        return lines.sort((a, b) => end(a, b) || (price[a] as number) - (price[b] as number) || a - b);
      if (sort === 'price-down')
        return lines.sort((a, b) => end(a, b) || (price[b] as number) - (price[a] as number) || a - b);
      if (sort === 'newest') return lines.sort((a, b) => later(a, b) || a - b);
      if (sort !== 'name') return lines;
      const { compare } = new Intl.Collator(names.locale, { numeric: true });
      const sorted = [...names.all()].sort((a, b) => compare(a[1], b[1]));
      const rank = new Int32Array(productIds.length).fill(sorted.length);
      sorted.forEach(([id], at) => {
        const of = this.#columns.placeOf(id);
        if (of !== undefined) rank[of] = at;
      });
      return lines.sort((a, b) => (rank[place(a)] as number) - (rank[place(b)] as number) || a - b);
    });
  }
}

/** Lines that match, and their variants that do; null where no property of variants is chosen. */
interface Match {
  lines: Bits;
  variants: (() => Bits) | null;
  /** Nothing but being in stock, and the value that lines stand for, is chosen of variants: the commonest choice, for which lines are told beforehand. */
  stockOnly: boolean;
}

/**
 * The lines of a product: one with all its variants, or one for each value of the option that variants have, in the values'
 * order. A product without variants has one line, and one place for what it lacks.
 */
function linesOf(columns: Columns, product: number, split: Split | null): [value: string | null, variants: number[]][] {
  const from = columns.variantStart[product] as number;
  const to = columns.variantStart[product + 1] as number;
  const all = Array.from({ length: Math.max(0, to - from) }, (_, at) => from + at);
  const whole: [string | null, number[]][] = [[null, all.length ? all : [-1]]];
  if (!split) return whole;
  const byValue = new Map<string, { place: number; pictures: number; variants: number[] }>();
  const { start, items } = columns.valueCodes;
  for (const variant of all) {
    for (let at = start[variant] as number; at < (start[variant + 1] as number); at++) {
      const found = columns.codes[items[at] as number];
      if (found?.option !== split.option) continue;
      const place = columns.valuePlaces[at] as number;
      const pictures = columns.valuePictures[at] as number;
      put(byValue, found.value, () => ({ place, pictures, variants: [] })).variants.push(variant);
    }
  }
  const lines = [...byValue]
    .sort(([, a], [, b]) => a.place - b.place)
    .filter(([, { pictures }], at) => at === 0 || pictures >= split.pictures);
  return lines.length ? lines.map(([value, { variants }]) => [value, variants]) : whole;
}

/** Worked out when first asked for. */
function later<T>(work: () => T): () => T {
  let made: T | undefined;
  return () => (made ??= work());
}

function mark(property: Property, variant: number, line: number): void {
  property.variants.add(variant);
  property.lines.add(line);
}

function joined<K>(bits: Bits, groups: Map<K, Bits>, keys: readonly K[]): Bits {
  for (const key of keys) {
    const one = groups.get(key);
    if (one) bits.join(one);
  }
  return bits;
}

const within = (price: number, [from, to]: PriceRange): boolean => price >= from && (to === null || price < to);

const code = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** The nearest of 1, 1.5, 2, 2.5, 3, 4, 5, 6, 8 times a power of ten. */
function roundFigure(amount: number): number {
  if (amount < 1) return 1;
  const power = 10 ** Math.floor(Math.log10(amount));
  const steps = [1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10].map((step) => Math.max(1, Math.round(step * power)));
  return steps.reduce((best, step) => (Math.abs(step - amount) < Math.abs(best - amount) ? step : best));
}

function put<K, V>(map: Map<K, V>, key: K, make: () => V): V {
  let value = map.get(key);
  if (value === undefined) map.set(key, (value = make()));
  return value;
}

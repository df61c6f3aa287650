import type { ListingSort, ProductFilter } from '../rows';
import { Bits } from './bits';

/** Tiles by the values of an option, a further value only with so many pictures that show it. */
export interface Split {
  option: string;
  pictures: number;
}

/** What an index is made from; each list in the order in which it is shown. Prices in minor units. */
export interface IndexRows {
  /** In the order chosen by hand. */
  products(): Iterable<[id: number, type: string, brandId: number | null, added: string]>;
  variants(): Iterable<[id: number, productId: number, price: number, stock: number]>;
  /** What each variant is of each option, by slugs, with the place of the value among those of its option. */
  values(): Iterable<[variantId: number, option: string, value: string, place: number]>;
  /** How many pictures show a value of this option. */
  pictures(option: string): Iterable<[productId: number, value: string, count: number]>;
  tags(): Iterable<[productId: number, tagId: number]>;
  /** The categories that a product is in, without those above them. */
  categories(): Iterable<[productId: number, categoryId: number]>;
  parents(): Iterable<[categoryId: number, parentId: number | null]>;
}

/** What a customer has chosen of a listing: values of one group widen, groups narrow. */
export interface Chosen {
  options: Record<string, readonly string[]>;
  tags: readonly number[];
  brands: readonly number[];
  /** From (included) to (not included; null: no end), in minor units. */
  prices: readonly [from: number, to: number | null][];
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

type Value = [option: string, value: string, place: number];

const nothing: Chosen = { options: {}, tags: [], brands: [], prices: [], inStock: false };

/**
 * All lines that listings are made of, in memory: which are in a category, have a tag, come in a colour. Listings, their
 * orders and the counts beside their filters are worked out on sets of bits, so that a catalogue a hundred times as large
 * does not take a hundred times as long. A choice of several properties holds only for a line with a variant that has all
 * of them: navy in 8 mm and red in 12 mm is not “navy, 12 mm”.
 */
export class ListingIndex {
  /** Lines, and the product of each. */
  readonly #product: Int32Array;
  readonly #value: (string | null)[];
  readonly #all: Bits;
  /** First line of each product. */
  readonly #first = new Map<number, number>();
  /** Variants in the order of their lines; those of a line from `start[line]` on. */
  readonly #start: Int32Array;
  readonly #line: Int32Array;
  readonly #price: Float64Array;
  readonly #inStock: Bits;
  readonly #stocked: Bits;
  readonly #linePrice: Float64Array;
  readonly #added: string[];
  readonly #categories = new Map<number, Bits>();
  readonly #tags = new Map<number, Bits>();
  readonly #brands = new Map<number, Bits>();
  readonly #types = new Map<string, Bits>();
  /** By option and value: the variants, and the lines that have one. */
  readonly #options = new Map<string, Map<string, { variants: Bits; lines: Bits }>>();
  readonly #orders = new Map<string, Int32Array>();
  readonly #bounds = new Map<string, number[]>();

  constructor(
    rows: IndexRows,
    readonly split: Split | null = null,
  ) {
    const products = [...rows.products()];
    const variantsOf = new Map<number, number[]>();
    const variants = new Map<number, { price: number; stock: number; values: Value[] }>();
    for (const [id, productId, price, stock] of rows.variants()) {
      variants.set(id, { price, stock, values: [] });
      const own = variantsOf.get(productId);
      if (own) own.push(id);
      else variantsOf.set(productId, [id]);
    }
    for (const [variantId, ...value] of rows.values()) variants.get(variantId)?.values.push(value);

    const product: number[] = [];
    const start: number[] = [];
    const line: number[] = [];
    const placed: number[] = [];
    this.#value = [];
    this.#added = [];
    const pictures = new Map<string, number>();
    if (split && split.pictures > 0)
      for (const [id, value, count] of rows.pictures(split.option)) pictures.set(`${id} ${value}`, count);
    const lineTypes: string[] = [];
    const lineBrands: (number | null)[] = [];
    for (const [id, type, brandId, added] of products) {
      this.#first.set(id, product.length);
      const own = variantsOf.get(id) ?? [];
      for (const [value, members] of linesOf(own, split, (variant) => variants.get(variant)?.values ?? [])) {
        const enough = value === null || this.#first.get(id) === product.length || !split || split.pictures <= 0;
        if (!enough && (pictures.get(`${id} ${value}`) ?? 0) < (split?.pictures ?? 0)) continue;
        start.push(placed.length);
        // A product without variants has one line, and one place for what it lacks.
        for (const variant of members.length ? members : [-1]) {
          line.push(product.length);
          placed.push(variant);
        }
        product.push(id);
        this.#value.push(value);
        this.#added.push(added);
        lineTypes.push(type);
        lineBrands.push(brandId);
      }
    }
    start.push(placed.length);
    this.#product = Int32Array.from(product);
    this.#start = Int32Array.from(start);
    this.#line = Int32Array.from(line);
    this.#all = Bits.full(product.length);
    this.#price = new Float64Array(placed.length).fill(NaN);
    this.#linePrice = new Float64Array(product.length).fill(NaN);
    this.#inStock = new Bits(placed.length);
    this.#stocked = new Bits(product.length);
    placed.forEach((id, at) => {
      const variant = variants.get(id);
      if (!variant) return;
      const of = line[at] as number;
      this.#price[at] = variant.price;
      if (!(variant.price >= (this.#linePrice[of] as number))) this.#linePrice[of] = variant.price;
      if (variant.stock > 0) {
        this.#inStock.add(at);
        this.#stocked.add(of);
      }
      for (const [option, value] of variant.values) {
        const values = put(this.#options, option, () => new Map<string, { variants: Bits; lines: Bits }>());
        const bits = put(values, value, () => ({
          variants: new Bits(placed.length),
          lines: new Bits(product.length),
        }));
        bits.variants.add(at);
        bits.lines.add(of);
      }
    });
    lineTypes.forEach((type, at) => put(this.#types, type, () => this.#none()).add(at));
    lineBrands.forEach((brand, at) => brand !== null && put(this.#brands, brand, () => this.#none()).add(at));
    for (const [id, tag] of rows.tags())
      this.#mark(
        put(this.#tags, tag, () => this.#none()),
        id,
      );
    const parents = new Map(rows.parents());
    for (const [id, category] of rows.categories()) {
      let at: number | null = category;
      // A parent that leads back to itself must not hang the index.
      for (let depth = 0; at !== null && depth < 32; depth++) {
        this.#mark(
          put(this.#categories, at, () => this.#none()),
          id,
        );
        at = parents.get(at) ?? null;
      }
    }
  }

  get size(): number {
    return this.#product.length;
  }

  #none(): Bits {
    return new Bits(this.#product.length);
  }

  /** Puts all lines of a product in. */
  #mark(bits: Bits, productId: number): void {
    const from = this.#first.get(productId);
    if (from === undefined) return;
    for (let at = from; this.#product[at] === productId; at++) bits.add(at);
  }

  /** One page of a listing, and how many lines it has on all of them. */
  list(query: ListQuery): { rows: IndexRow[]; count: number } {
    const lines = this.#matching(this.#base(query), query.chosen ?? nothing, null);
    const rows: IndexRow[] = [];
    const order = this.#order(query);
    let left = query.offset;
    for (let at = 0; at < order.length && rows.length < query.limit; at++) {
      const line = order[at] as number;
      if (!lines.has(line) || left-- > 0) continue;
      rows.push({ productId: this.#product[line] as number, value: this.#value[line] ?? null });
    }
    return { rows, count: lines.count() };
  }

  /** How many lines a listing has. */
  count(query: Pick<ListQuery, 'filter' | 'found'>, chosen: Chosen = nothing): number {
    return this.#matching(this.#base(query), chosen, null).count();
  }

  /** Counts beside each value of each filter. A group's own choice does not count against its other values. */
  counts(query: Pick<ListQuery, 'filter' | 'found'>, chosen: Chosen = nothing): Counts {
    const base = this.#base(query);
    const tags = this.#matching(base, chosen, 'tags');
    const brands = this.#matching(base, chosen, 'brands');
    const options = new Map<string, Map<string, number>>();
    for (const [option, values] of this.#options) {
      const group = `option ${option}`;
      const lines = this.#matching(base, chosen, group);
      const variants = this.#variants(chosen, group);
      const counted = new Map<string, number>();
      for (const [value, bits] of values) {
        const count = variants ? this.#distinct(variants, bits.variants, lines) : bits.lines.countWith(lines);
        if (count || chosen.options[option]?.includes(value)) counted.set(value, count);
      }
      if (counted.size) options.set(option, counted);
    }
    const stockLines = this.#matching(base, chosen, 'stock');
    const stockVariants = this.#variants(chosen, 'stock');
    return {
      options,
      tags: counted(this.#tags, tags, chosen.tags),
      brands: counted(this.#brands, brands, chosen.brands),
      prices: this.#prices(query, base, chosen),
      inStock: stockVariants
        ? this.#distinct(stockVariants, this.#inStock, stockLines)
        : this.#stocked.countWith(stockLines),
    };
  }

  /** The lines of a listing before anything is chosen. */
  #base({ filter, found }: Pick<ListQuery, 'filter' | 'found'>): Bits {
    const bits = this.#all.copy();
    const { categoryId, tagId, brandId, type } = filter;
    if (categoryId !== undefined) bits.keep(this.#categories.get(categoryId) ?? this.#none());
    if (tagId !== undefined) bits.keep(this.#tags.get(tagId) ?? this.#none());
    if (brandId !== undefined) bits.keep(this.#brands.get(brandId) ?? this.#none());
    if (type !== undefined) bits.keep(this.#types.get(type) ?? this.#none());
    if (found) {
      const among = this.#none();
      for (const id of found) this.#mark(among, id);
      bits.keep(among);
    }
    return bits;
  }

  /** The lines of a base that have all that is chosen, the group left out aside. */
  #matching(base: Bits, chosen: Chosen, leftOut: string | null): Bits {
    const lines = base.copy();
    if (leftOut !== 'tags' && chosen.tags.length) lines.keep(this.#joined(this.#tags, chosen.tags));
    if (leftOut !== 'brands' && chosen.brands.length) lines.keep(this.#joined(this.#brands, chosen.brands));
    const variants = this.#variants(chosen, leftOut);
    if (!variants) return lines;
    const having = this.#none();
    variants.each((at) => having.add(this.#line[at] as number));
    return lines.keep(having);
  }

  #joined<K>(groups: Map<K, Bits>, keys: readonly K[]): Bits {
    const bits = this.#none();
    for (const key of keys) {
      const one = groups.get(key);
      if (one) bits.join(one);
    }
    return bits;
  }

  /** The variants that have all that is chosen of them (options, price, stock), the group left out aside; null: nothing is. */
  #variants(chosen: Chosen, leftOut: string | null): Bits | null {
    let variants: Bits | null = null;
    const narrow = (bits: Bits) => {
      variants = variants ? variants.keep(bits) : bits;
    };
    for (const [option, values] of Object.entries(chosen.options)) {
      if (!values.length || leftOut === `option ${option}`) continue;
      const bits = new Bits(this.#line.length);
      for (const value of values) {
        const own = this.#options.get(option)?.get(value);
        if (own) bits.join(own.variants);
      }
      narrow(bits);
    }
    if (chosen.prices.length && leftOut !== 'prices') {
      const bits = new Bits(this.#line.length);
      for (let at = 0; at < this.#price.length; at++)
        if (chosen.prices.some((range) => within(this.#price[at] as number, range))) bits.add(at);
      narrow(bits);
    }
    if (chosen.inStock && leftOut !== 'stock') narrow(this.#inStock.copy());
    return variants;
  }

  /** Lines among these that have a variant in both sets. */
  #distinct(variants: Bits, others: Bits, lines: Bits): number {
    let count = 0;
    let last = -1;
    variants.each((at) => {
      const line = this.#line[at] as number;
      if (line === last) return;
      last = line;
      if (lines.has(line)) count++;
    }, others);
    return count;
  }

  #prices(query: Pick<ListQuery, 'filter' | 'found'>, base: Bits, chosen: Chosen): Counts['prices'] {
    const bounds = this.#priceBounds(query, base);
    if (!bounds.length) return [];
    const ranges = bounds.map((bound, at) => ({
      from: at ? (bounds[at - 1] as number) : 0,
      to: bound as number | null,
      count: 0,
    }));
    ranges.push({ from: bounds[bounds.length - 1] as number, to: null, count: 0 });
    const lines = this.#matching(base, chosen, 'prices');
    const variants = this.#variants(chosen, 'prices');
    lines.each((line) => {
      let mask = 0;
      for (let at = this.#start[line] as number; at < (this.#start[line + 1] as number); at++) {
        if (variants && !variants.has(at)) continue;
        const price = this.#price[at] as number;
        if (Number.isNaN(price)) continue;
        let range = 0;
        while (range < bounds.length && price >= (bounds[range] as number)) range++;
        mask |= 1 << range;
      }
      ranges.forEach((range, at) => (mask >>> at) & 1 && range.count++);
    });
    return ranges;
  }

  /** Where the ranges of price meet: round figures near the quarters of what the listing has, so that each range holds some. */
  #priceBounds({ filter, found }: Pick<ListQuery, 'filter' | 'found'>, base: Bits): number[] {
    const work = () => {
      const prices: number[] = [];
      for (const line of this.#sorted('price')) if (base.has(line)) prices.push(this.#linePrice[line] as number);
      const known = prices.filter((price) => !Number.isNaN(price));
      const at = (share: number) => known[Math.floor(known.length * share)] as number;
      if (known.length < 4) return [];
      const bounds = [...new Set([at(0.25), at(0.5), at(0.75)].map(roundFigure))];
      return bounds.filter((bound) => bound > (known[0] as number) && bound <= (known[known.length - 1] as number));
    };
    if (found) return work();
    const key = JSON.stringify(filter);
    if (this.#bounds.size > 2000) this.#bounds.clear();
    return put(this.#bounds, key, work);
  }

  #order({ sort, found, names }: ListQuery): Int32Array {
    if (sort === 'match' && found) {
      const lines: number[] = [];
      for (const id of found) {
        const from = this.#first.get(id);
        if (from === undefined) continue;
        for (let at = from; this.#product[at] === id; at++) lines.push(at);
      }
      return Int32Array.from(lines);
    }
    return this.#sorted(sort, names);
  }

  #sorted(sort: ListingSort, names?: Names): Int32Array {
    return put(this.#orders, sort === 'name' ? `name ${names?.locale}` : sort, () => {
      const lines = Int32Array.from(this.#product, (_, at) => at);
      const price = this.#linePrice;
      const end = (a: number, b: number) => Number(Number.isNaN(price[a])) - Number(Number.isNaN(price[b]));
      const by: Partial<Record<ListingSort, (a: number, b: number) => number>> = {
        price: (a, b) => end(a, b) || (price[a] as number) - (price[b] as number) || a - b,
        'price-down': (a, b) => end(a, b) || (price[b] as number) - (price[a] as number) || a - b,
        newest: (a, b) => code(this.#added[b] as string, this.#added[a] as string) || this.#later(a, b),
      };
      if (sort === 'name' && names) {
        const { compare } = new Intl.Collator(names.locale, { numeric: true });
        const sorted = [...names.all()].sort((a, b) => compare(a[1], b[1]));
        const place = new Map(sorted.map(([id], at) => [id, at]));
        const rank = (line: number) => place.get(this.#product[line] as number) ?? sorted.length;
        by.name = (a, b) => rank(a) - rank(b) || a - b;
      }
      const compare = by[sort];
      // Typed arrays sort NaN results as they like: comparisons give numbers only.
      return compare ? lines.sort(compare) : lines;
    });
  }

  /** Of two lines of one day: the product that came later stands first, its own tiles in their order. */
  #later(a: number, b: number): number {
    return (this.#product[b] as number) - (this.#product[a] as number) || a - b;
  }
}

/** The lines of a product: one, or one for each value of the option that variants have, in the values' order. */
function linesOf(
  variants: readonly number[],
  split: Split | null,
  valuesOf: (variant: number) => Value[],
): [value: string | null, variants: number[]][] {
  if (!split) return [[null, [...variants]]];
  const byValue = new Map<string, { place: number; variants: number[] }>();
  for (const variant of variants) {
    const [, value, place = 0] = valuesOf(variant).find(([option]) => option === split.option) ?? [];
    if (value !== undefined) put(byValue, value, () => ({ place, variants: [] })).variants.push(variant);
  }
  if (!byValue.size) return [[null, [...variants]]];
  return [...byValue].sort(([, a], [, b]) => a.place - b.place).map(([value, own]) => [value, own.variants]);
}

function counted<K>(groups: Map<K, Bits>, lines: Bits, chosen: readonly K[]): Map<K, number> {
  const counts = new Map<K, number>();
  for (const [key, bits] of groups) {
    const count = bits.countWith(lines);
    if (count || chosen.includes(key)) counts.set(key, count);
  }
  return counts;
}

const within = (price: number, [from, to]: readonly [number, number | null]): boolean =>
  price >= from && (to === null || price < to);

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

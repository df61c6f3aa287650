import { Bits } from './bits';
import type { Columns, Grouped } from './columns';
import { put } from './put';

/** Tiles by the values of an option. */
export interface Split {
  option: string;
  /** A further value gets one only with so many pictures that show it. */
  pictures: number;
  /** Only these values get one, by slug; empty: all do. */
  values?: readonly string[];
  /** The values of single products, by the product's slug, in place of the two above; an empty list: one tile. */
  ofProducts?: Readonly<Record<string, readonly string[]>>;
}

/** A property of variants: those that have it, and the lines with one that has. */
export interface Property {
  variants: Bits;
  lines: Bits;
}

/**
 * The lines that listings are made of: products, or the tiles of their values. Built once from the columns; which lines are in a
 * category, have a tag, come in a colour stands as sets of bits.
 */
export class Lines {
  /** Place of the product of each line, and the value that the line stands for. */
  readonly product: Int32Array;
  readonly value: (string | null)[] = [];
  /** First line of each product, and one more. */
  readonly first: Int32Array;
  /** Variants by line: place among the columns' (-1 for a product without any), and the line of each. */
  readonly variant: Int32Array;
  readonly line: Int32Array;
  /** First variant of each line, and one more. */
  readonly start: Int32Array;
  /** The lowest of its variants', in minor units; NaN without any. */
  readonly price: Float64Array;
  readonly inStock: Property;
  /** Lines with a variant that was dearer before. */
  readonly offers: Bits;
  readonly categories = new Map<number, Bits>();
  readonly tags = new Map<number, Bits>();
  readonly brands = new Map<number, Bits>();
  readonly types = new Map<string, Bits>();
  /** By the columns' codes. */
  readonly codes: Property[];
  private all: Grouped | null = null;
  private stocked: Grouped | null = null;

  constructor(
    readonly columns: Columns,
    split: Split | null,
    idOf: (slug: string) => number | undefined = () => undefined,
  ) {
    const ofProducts = new Map(Object.entries(split?.ofProducts ?? {}).map(([slug, values]) => [idOf(slug), values]));
    const product: number[] = [];
    const variant: number[] = [];
    const line: number[] = [];
    const start: number[] = [];
    const first = new Int32Array(columns.productIds.length + 1);
    for (let place = 0; place < columns.productIds.length; place++) {
      first[place] = product.length;
      for (const [value, variants] of linesOf(columns, place, split, ofProducts.get(columns.productIds[place]))) {
        start.push(variant.length);
        for (const one of variants) {
          variant.push(one);
          line.push(product.length);
        }
        product.push(place);
        this.value.push(value);
      }
    }
    first[columns.productIds.length] = product.length;
    start.push(variant.length);
    this.first = first;
    this.product = Int32Array.from(product);
    this.variant = Int32Array.from(variant);
    this.line = Int32Array.from(line);
    this.start = Int32Array.from(start);
    this.price = new Float64Array(product.length).fill(NaN);
    this.inStock = this.property();
    this.offers = this.none();
    this.codes = columns.codes.map(() => this.property());
    const { valueCodes, price, stock, reduced } = columns;
    for (let at = 0; at < variant.length; at++) {
      const place = variant[at] as number;
      const of = line[at] as number;
      if (place < 0) continue;
      if (!((price[place] as number) >= (this.price[of] as number))) this.price[of] = price[place] as number;
      if ((stock[place] as number) > 0) mark(this.inStock, at, of);
      if (reduced[place]) this.offers.add(of);
      for (let v = valueCodes.start[place] as number; v < (valueCodes.start[place + 1] as number); v++) {
        const code = this.codes[valueCodes.items[v] as number];
        if (code) mark(code, at, of);
      }
    }
    for (let place = 0; place < columns.productIds.length; place++) {
      this.mark(
        put(this.types, columns.types[place] as string, () => this.none()),
        place,
      );
      const brand = columns.brands[place];
      if (brand !== null && brand !== undefined)
        this.mark(
          put(this.brands, brand, () => this.none()),
          place,
        );
      for (const [groups, map] of [
        [columns.tags, this.tags],
        [columns.categories, this.categories],
      ] as const) {
        for (let at = groups.start[place] as number; at < (groups.start[place + 1] as number); at++)
          this.mark(
            put(map, groups.items[at] as number, () => this.none()),
            place,
          );
      }
    }
  }

  /** The same lines with prices and stock of other columns, which differ from these in those of some products alone. */
  withFigures(columns: Columns, products: Iterable<number>): Lines {
    const price = this.price.slice();
    const inStock = { variants: this.inStock.variants.copy(), lines: this.inStock.lines.copy() };
    const offers = this.offers.copy();
    for (const product of products) {
      for (let line = this.first[product] as number; line < (this.first[product + 1] as number); line++) {
        let [lowest, some, reduced] = [NaN, false, false];
        for (let at = this.start[line] as number; at < (this.start[line + 1] as number); at++) {
          const place = this.variant[at] as number;
          if (place < 0) continue;
          if (!((columns.price[place] as number) >= lowest)) lowest = columns.price[place] as number;
          const isThere = (columns.stock[place] as number) > 0;
          inStock.variants.put(at, isThere);
          some ||= isThere;
          reduced ||= columns.reduced[place] === 1;
        }
        price[line] = lowest;
        inStock.lines.put(line, some);
        offers.put(line, reduced);
      }
    }
    const fresh = { columns, price, inStock, offers, stocked: null };
    return Object.assign(Object.create(Lines.prototype) as Lines, this, fresh);
  }

  get size(): number {
    return this.product.length;
  }

  get variants(): number {
    return this.variant.length;
  }

  none(): Bits {
    return new Bits(this.product.length);
  }

  property(): Property {
    return { variants: new Bits(this.variant.length), lines: this.none() };
  }

  /** Puts all lines of a product in. */
  mark(bits: Bits, place: number): void {
    for (let at = this.first[place] as number; at < (this.first[place + 1] as number); at++) bits.add(at);
  }

  /** Codes of each line, each once. */
  get allCodes(): Grouped {
    return (this.all ??= this.codesOf(null));
  }

  /** Codes of each line's variants that are in stock. */
  get stockedCodes(): Grouped {
    return (this.stocked ??= this.codesOf(this.inStock.variants));
  }

  /** Codes of each line, each once; of some of its variants or of all. */
  private codesOf(some: Bits | null): Grouped {
    const lines = this.product.length;
    const start = new Int32Array(lines + 1);
    const items: number[] = [];
    const last = new Int32Array(this.codes.length).fill(-1);
    const { valueCodes } = this.columns;
    for (let line = 0; line < lines; line++) {
      start[line] = items.length;
      for (let at = this.start[line] as number; at < (this.start[line + 1] as number); at++) {
        const place = this.variant[at] as number;
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
}

/**
 * The lines of a product: one with all its variants, or one for each value of the option that variants have, in the values'
 * order. A product without variants, or with none of the values that get a tile, has one line, and one place for what it lacks.
 */
function linesOf(
  columns: Columns,
  product: number,
  split: Split | null,
  own: readonly string[] | undefined,
): [value: string | null, variants: number[]][] {
  const from = columns.variantStart[product] as number;
  const to = columns.variantStart[product + 1] as number;
  const all = Array.from({ length: Math.max(0, to - from) }, (_, at) => from + at);
  const whole: [string | null, number[]][] = [[null, all.length ? all : [-1]]];
  if (!split || own?.length === 0) return whole;
  const { values = [] } = split;
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
    .filter(([value]) => own?.includes(value) ?? (!values.length || values.includes(value)))
    .filter(([, { pictures }], at) => own || at === 0 || pictures >= split.pictures);
  return lines.length ? lines.map(([value, { variants }]) => [value, variants]) : whole;
}

export function mark(property: Property, variant: number, line: number): void {
  property.variants.add(variant);
  property.lines.add(line);
}

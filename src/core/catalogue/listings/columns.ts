/** What an index is made from; each list in the order in which it is shown. Prices in minor units. */
export interface IndexRows {
  /** In the order chosen by hand. */
  products(): Iterable<[id: number, type: string, brandId: number | null, added: string, position: number]>;
  /** By product; `reduced`: 1 where it was dearer before. */
  variants(): Iterable<[id: number, productId: number, price: number, stock: number, reduced: number]>;
  /** What each variant is of each option: its values by their numbers. */
  values(): Iterable<[variantId: number, valueId: number]>;
  /** Values by option and slug, with the place of each among those of its option. */
  optionValues(): Iterable<[valueId: number, option: string, value: string, place: number]>;
  /** How many pictures show a value. */
  pictures(): Iterable<[valueId: number, count: number]>;
  tags(): Iterable<[productId: number, tagId: number]>;
  /** The categories that a product is in, without those above them. */
  categories(): Iterable<[productId: number, categoryId: number]>;
  parents(): Iterable<[categoryId: number, parentId: number | null]>;
}

/** A value of an option as all products share it. */
export interface ValueCode {
  option: string;
  value: string;
}

/** Rows by a number that they share, one after another: those of `n` stand from `start[n]` to before `start[n + 1]`. */
export interface Grouped {
  start: Int32Array;
  items: Int32Array;
}

/**
 * The catalogue in columns, read once for all indexes: products and variants by their places, values of options by a code
 * that products share. Numbers of the store stand in `productIds`.
 */
export class Columns {
  readonly productIds: Int32Array;
  readonly types: string[] = [];
  readonly brands: (number | null)[] = [];
  readonly added: string[] = [];
  /** First variant of each product, and one more. */
  readonly variantStart: Int32Array;
  readonly price: Float64Array;
  readonly stock: Int32Array;
  /** 1 of each variant that was dearer before. */
  readonly reduced: Uint8Array;
  readonly codes: ValueCode[] = [];
  /** Codes of each variant. */
  readonly valueCodes: Grouped;
  /** For each entry of `valueCodes`: the place of that value among those of its option, and the pictures that show it. */
  readonly valuePlaces: Int32Array;
  readonly valuePictures: Int32Array;
  readonly tags: Grouped;
  /** Categories of each product, those above them too. */
  readonly categories: Grouped;
  /** What the order chosen by hand goes by. */
  readonly positions: number[] = [];
  /** The same for columns in which prices and stock alone differ. */
  readonly shape = {};
  private readonly places = new Map<number, number>();

  constructor(rows: IndexRows) {
    const ids: number[] = [];
    for (const [id, type, brand, added, position] of rows.products()) {
      this.places.set(id, ids.length);
      ids.push(id);
      this.types.push(type);
      this.brands.push(brand);
      this.added.push(added);
      this.positions.push(position);
    }
    this.productIds = Int32Array.from(ids);

    const found: { id: number; product: number; price: number; stock: number; reduced: number }[] = [];
    const counts = new Int32Array(ids.length + 1);
    for (const [id, productId, price, stock, reduced] of rows.variants()) {
      const product = this.places.get(productId);
      if (product === undefined) continue;
      found.push({ id, product, price, stock, reduced });
      (counts[product] as number)++;
    }
    this.variantStart = starts(counts);
    const next = this.variantStart.slice();
    this.price = new Float64Array(found.length);
    this.stock = new Int32Array(found.length);
    this.reduced = new Uint8Array(found.length);
    const variantPlace = new Map<number, number>();
    for (const { id, product, price, stock, reduced } of found) {
      const at = next[product] as number;
      next[product] = at + 1;
      this.price[at] = price;
      this.stock[at] = stock;
      this.reduced[at] = reduced;
      variantPlace.set(id, at);
    }

    const codeOf = new Map<string, Map<string, number>>();
    const values = new Map<number, { code: number; place: number; pictures: number }>();
    for (const [id, option, value, place] of rows.optionValues()) {
      let byValue = codeOf.get(option);
      if (!byValue) codeOf.set(option, (byValue = new Map()));
      let code = byValue.get(value);
      if (code === undefined) {
        byValue.set(value, (code = this.codes.length));
        this.codes.push({ option, value });
      }
      values.set(id, { code, place, pictures: 0 });
    }
    for (const [id, count] of rows.pictures()) {
      const value = values.get(id);
      if (value) value.pictures = count;
    }
    const pairs: number[] = [];
    const ofVariant = new Int32Array(found.length + 1);
    for (const [variantId, valueId] of rows.values()) {
      const at = variantPlace.get(variantId);
      if (at === undefined) continue;
      pairs.push(at, valueId);
      (ofVariant[at] as number)++;
    }
    const start = starts(ofVariant);
    const free = start.slice();
    const items = new Int32Array(pairs.length / 2);
    this.valuePlaces = new Int32Array(items.length);
    this.valuePictures = new Int32Array(items.length);
    for (let at = 0; at < pairs.length; at += 2) {
      const variant = pairs[at] as number;
      const value = values.get(pairs[at + 1] as number);
      const to = free[variant] as number;
      free[variant] = to + 1;
      items[to] = value?.code ?? -1;
      this.valuePlaces[to] = value?.place ?? 0;
      this.valuePictures[to] = value?.pictures ?? 0;
    }
    this.valueCodes = { start, items };

    this.tags = this.grouped(rows.tags());
    const parents = new Map(rows.parents());
    this.categories = this.grouped(withParents(rows.categories(), parents));
  }

  /** Place of a product by its number; none when it is gone. */
  placeOf(productId: number): number | undefined {
    return this.places.get(productId);
  }

  /**
   * The same with prices and stock of some products as they are now; null where more than that has changed of one.
   *
   * @param now the columns of these products alone: of those of them that are there
   */
  withFigures(ids: readonly number[], now: Columns): Columns | null {
    for (const id of ids) {
      const [before, after] = [this.places.get(id), now.places.get(id)];
      if (before === undefined && after === undefined) continue;
      if (before === undefined || after === undefined || !this.isAlike(before, now, after)) return null;
    }
    const [price, stock, reduced] = [this.price.slice(), this.stock.slice(), this.reduced.slice()];
    now.productIds.forEach((id, after) => {
      const to = this.variantStart[this.places.get(id) as number] as number;
      const [from, end] = [now.variantStart[after] as number, now.variantStart[after + 1] as number];
      price.set(now.price.subarray(from, end), to);
      stock.set(now.stock.subarray(from, end), to);
      reduced.set(now.reduced.subarray(from, end), to);
    });
    return Object.assign(Object.create(Columns.prototype) as Columns, this, { price, stock, reduced });
  }

  /** Whether a product is the same in other columns, but for prices and stock. */
  private isAlike(place: number, other: Columns, at: number): boolean {
    const one = this.shapeOf(place);
    const two = other.shapeOf(at);
    return one.length === two.length && one.every((value, of) => value === two[of]);
  }

  /** All that tells a product’s lines and their places in listings, prices and stock aside. */
  private shapeOf(place: number): unknown[] {
    const [from, to] = [this.variantStart[place] as number, this.variantStart[place + 1] as number];
    const shape: unknown[] = [
      this.types[place],
      this.brands[place],
      this.added[place],
      this.positions[place],
      to - from,
    ];
    for (let variant = from; variant < to; variant++) {
      const { start, items } = this.valueCodes;
      const values: string[] = [];
      for (let at = start[variant] as number; at < (start[variant + 1] as number); at++) {
        const { option, value } = this.codes[items[at] as number] ?? { option: '', value: '' };
        values.push(`${option}\0${value}\0${this.valuePlaces[at]}\0${this.valuePictures[at]}`);
      }
      shape.push(values.sort().join('\0\0'));
    }
    for (const { start, items } of [this.tags, this.categories])
      shape.push(
        items
          .slice(start[place], start[place + 1])
          .sort()
          .join(),
      );
    return shape;
  }

  private grouped(pairs: Iterable<[productId: number, other: number]>): Grouped {
    const counts = new Int32Array(this.productIds.length + 1);
    const lines: number[] = [];
    for (const [productId, other] of pairs) {
      const at = this.places.get(productId);
      if (at === undefined) continue;
      lines.push(at, other);
      (counts[at] as number)++;
    }
    const start = starts(counts);
    const next = start.slice();
    const items = new Int32Array(lines.length / 2);
    for (let at = 0; at < lines.length; at += 2) {
      const product = lines[at] as number;
      const to = next[product] as number;
      next[product] = to + 1;
      items[to] = lines[at + 1] as number;
    }
    return { start, items };
  }
}

/** Where each group begins, from how many are in it. */
function starts(counts: Int32Array): Int32Array {
  const start = new Int32Array(counts.length);
  for (let at = 1; at < counts.length; at++) start[at] = (start[at - 1] as number) + (counts[at - 1] as number);
  return start;
}

function* withParents(
  pairs: Iterable<[number, number]>,
  parents: ReadonlyMap<number, number | null>,
): Generator<[number, number]> {
  for (const [product, category] of pairs) {
    let at: number | null = category;
    // A parent that leads back to itself must not hang the index.
    for (let depth = 0; at !== null && depth < 32; depth++) {
      yield [product, at];
      at = parents.get(at) ?? null;
    }
  }
}

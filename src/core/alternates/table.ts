import { Bits, factKey, type FactName, type Facts, type FactValue } from '@/core/catalogue';
import { fold, groupOf, testOf, textTest, type Condition, type Leaf } from './condition';

/** One fact of all subjects, by their places. */
export type Column =
  /** Texts and days: a code for each place (-1: none) into the texts that there are. */
  | { type: 'texts'; codes: Int32Array; values: readonly string[]; folded?: readonly string[] }
  /** Numbers and money: NaN where there is none. */
  | { type: 'numbers'; values: Float64Array }
  /** Sets: pairs of a place and a code, which stands for one text or several (a category for those above it too). */
  | { type: 'sets'; places: Int32Array; codes: Int32Array; values: readonly (readonly string[])[] }
  | { type: 'flags'; set: Bits };

/**
 * The subjects of one kind as rules see them, in columns. Only facts that a rule asks for are read, each once for all
 * subjects. What changed since can be put over it, subject by subject.
 */
export class FactTable {
  readonly #columns = new Map<string, Column | null>();
  readonly #over = new Map<number, Facts>();
  #places: Map<string, number[]> | null = null;

  constructor(
    /** Slugs, in the order of the places. */
    readonly slugs: readonly string[],
    readonly read: (asked: FactName) => Column | null,
  ) {}

  get size(): number {
    return this.slugs.length;
  }

  /** Places of a slug: several of a listing, which has views. */
  placesOf(slug: string): readonly number[] {
    if (!this.#places) {
      this.#places = new Map();
      for (const [at, one] of this.slugs.entries()) {
        const known = this.#places.get(one);
        if (known) known.push(at);
        else this.#places.set(one, [at]);
      }
    }
    return this.#places.get(slug) ?? [];
  }

  /** Facts of a subject that changed since the columns were read. */
  put(place: number, facts: Facts): void {
    this.#over.set(place, facts);
  }

  get changed(): ReadonlyMap<number, Facts> {
    return this.#over;
  }

  column(asked: FactName): Column | null {
    const key = factKey(asked);
    let column = this.#columns.get(key);
    if (column === undefined) this.#columns.set(key, (column = this.read(asked)));
    return column;
  }

  /** The facts of one subject, from the columns. */
  factsAt(place: number): Facts {
    return this.#over.get(place) ?? ((asked) => valueAt(this.column(asked), place));
  }
}

function valueAt(column: Column | null, place: number): FactValue {
  switch (column?.type) {
    case 'texts': {
      const code = column.codes[place] as number;
      return code < 0 ? null : (column.values[code] as string);
    }
    case 'numbers': {
      const value = column.values[place] as number;
      return Number.isNaN(value) ? null : value;
    }
    case 'flags':
      return column.set.has(place);
    case 'sets': {
      const found: string[] = [];
      for (let at = 0; at < column.places.length; at++)
        if (column.places[at] === place) found.push(...(column.values[column.codes[at] as number] as string[]));
      return [...new Set(found)];
    }
    default:
      return null;
  }
}

/** Which subjects a condition holds for; questions that several rules put are answered once. */
export class Matcher {
  readonly #answered = new Map<string, Bits>();

  constructor(
    readonly table: FactTable,
    readonly today: string,
  ) {}

  match(of: Condition): Bits {
    const group = groupOf(of);
    if (!group) return this.#leaf(of as Leaf);
    const { size } = this.table;
    if (group.name === 'all') {
      const all = Bits.full(size);
      for (const part of group.parts) all.keep(this.match(part));
      return all;
    }
    const any = new Bits(size);
    for (const part of group.parts) any.join(this.match(part));
    return group.name === 'any' ? any : Bits.full(size).leave(any);
  }

  #leaf(leaf: Leaf): Bits {
    const key = JSON.stringify(leaf);
    let bits = this.#answered.get(key);
    if (!bits) {
      const test = testOf(leaf, this.today);
      bits = select(this.table.column(leaf), this.table.size, leaf, test);
      for (const [place, facts] of this.table.changed) bits.put(place, test(facts(leaf)));
      this.#answered.set(key, bits);
    }
    return bits;
  }
}

function select(column: Column | null, size: number, leaf: Leaf, test: (value: FactValue) => boolean): Bits {
  const bits = new Bits(size);
  switch (column?.type) {
    case 'texts': {
      const text = textTest(leaf);
      // Texts are folded once for all questions.
      const folded = text && (column.folded ??= column.values.map(fold));
      const none = column.values.length;
      const held = new Uint8Array(none + 1);
      for (let code = 0; code < none; code++)
        held[code] = Number(text ? text((folded as string[])[code] as string) : test(column.values[code] as string));
      held[none] = Number(test(null));
      const { codes } = column;
      for (let place = 0; place < size; place++) {
        const code = codes[place] as number;
        if (held[code < 0 ? none : code]) bits.add(place);
      }
      return bits;
    }
    case 'numbers': {
      const none = test(null);
      for (let place = 0; place < size; place++) {
        const value = column.values[place] as number;
        if (Number.isNaN(value) ? none : test(value)) bits.add(place);
      }
      return bits;
    }
    case 'flags': {
      const [yes, no] = [test(true), test(false)];
      for (let place = 0; place < size; place++) if (column.set.has(place) ? yes : no) bits.add(place);
      return bits;
    }
    case 'sets': {
      // Of a set one text decides, or whether there is any.
      const { places, codes, values } = column;
      const every = leaf.test !== 'is';
      const held = values.map((texts) => every || test(texts));
      for (let at = 0; at < places.length; at++) if (held[codes[at] as number]) bits.add(places[at] as number);
      return leaf.test === 'empty' ? Bits.full(size).leave(bits) : bits;
    }
    default:
      return test(null) ? Bits.full(size) : bits;
  }
}

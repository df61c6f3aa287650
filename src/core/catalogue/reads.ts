import type { Chosen, ListQuery, Split } from './listings/listing-index';
import type { Redirects } from './renames';
import { type CategoryRow, fieldSubjects, type ShopRow } from './rows';
import type { CatalogueSource, Listings } from './source';

/** What is given with a question: a list of numbers, a number, a text. */
type Given = 'ids' | 'number' | 'text';

/** What is asked of a source and comes back as plain rows, with what is given: it is noted as it is asked. */
const plain = {
  ...{ productBySlug: ['text'], products: ['ids'], facetValues: [], search: ['text', 'number'], variants: ['ids'] },
  ...{ options: ['ids'], picture: ['text'], media: ['text', 'ids'], tags: ['ids'], tagBySlug: ['text'], allTags: [] },
  ...{ productCategories: ['ids'], brands: [], attributes: ['ids'], fieldDefinitions: ['text'] },
  ...{ fields: ['text', 'ids'], members: ['ids'], productTypes: [], optionSlugs: [], related: ['ids'] },
  ...{ contentBySlug: ['text'], contents: [], articleBySlug: ['text'], articles: [], menu: ['text'], menus: [] },
} satisfies Partial<Record<keyof CatalogueSource, Given[]>>;

/** Between the language, what is asked, and what is given with it. */
const between = '\t';

/** Of so many reads a page is said to have read all that there is. */
const most = 2000;
const all = 'everything';

/**
 * A catalogue that writes down what is read of it: in which language, what was asked, and with what. Another state of the catalogue can be asked the same;
 * where all that a page read comes to the same there, the page does as well. The note of everything stands for a catalogue as it is, whatever changes.
 */
export function readingOf(source: CatalogueSource, reads: Set<string>): CatalogueSource {
  // Templates are made for the custom fields that there are.
  for (const subject of fieldSubjects) reads.add(`${between}fieldDefinitions${between}${subject}`);
  return new Reading(source, reads) as unknown as CatalogueSource;
}

/** Words, and how much a search finds at most. */
type Search = [words: string, limit: number];

/** The questions of `plain` are added below. */
class Reading {
  readonly language: string;
  readonly #begin: string;
  readonly #indexes = new Map<string, Listings>();
  /** What was searched for, by what it found. */
  readonly searches = new WeakMap<readonly number[], Search>();
  #categories: CategoryRow[] | null = null;
  #redirects: Redirects | null = null;
  #first: CatalogueSource | null = null;

  constructor(
    readonly source: CatalogueSource,
    readonly reads: Set<string>,
  ) {
    this.language = source.language;
    this.#begin = this.language + between;
  }

  note(read: string): void {
    const { reads } = this;
    if (reads.has(all)) return;
    reads.add(this.#begin + read);
    if (reads.size > most) this.noteAll();
  }

  noteAll(): void {
    this.reads.clear();
    this.reads.add(all);
  }

  get untranslated() {
    return this.source.untranslated;
  }

  used(kind: Parameters<CatalogueSource['used']>[0], id: number): void {
    this.source.used(kind, id);
  }

  inFirst(): CatalogueSource {
    const other = this.source.inFirst();
    if (other === this.source) return this as unknown as CatalogueSource;
    return (this.#first ??= new Reading(other, this.reads) as unknown as CatalogueSource);
  }

  /** Only orders of listings ask for them, and what these come to is noted. */
  names() {
    return this.source.names();
  }

  shop() {
    this.note('shop');
    return this.source.shop();
  }

  categories(): CategoryRow[] {
    this.note('categories');
    // How many products each has changes often, and is seldom shown.
    return (this.#categories ??= this.source
      .categories()
      .map((row) => new Counted(row, () => this.note(`productCount${between}${row.id}`))));
  }

  redirects(): Redirects {
    if (this.#redirects) return this.#redirects;
    const redirects = this.source.redirects();
    // Where nothing leads elsewhere it need not be asked one by one.
    if (!redirects.size) {
      this.note('noRedirects');
      return (this.#redirects = redirects);
    }
    const note = (asked: string, ...given: string[]) => this.note(['redirects', asked, ...given].join(between));
    const noteAll = () => this.noteAll();
    return (this.#redirects = {
      size: redirects.size,
      get all() {
        noteAll();
        return redirects.all;
      },
      targetOf: (path) => (note('targetOf', path), redirects.targetOf(path)),
      earlier: (kind, slug) => (note('earlier', kind, slug), redirects.earlier(kind, slug)),
      slugOf: (kind, slug) => (note('slugOf', kind, slug), redirects.slugOf(kind, slug)),
    } satisfies Pick<Redirects, keyof Redirects> as unknown as Redirects);
  }

  index(split: Split | null): Listings {
    const key = JSON.stringify(split);
    let index = this.#indexes.get(key);
    if (index) return index;
    const of = this.source.index(split);
    const note = (asked: string, { filter, found }: Pick<ListQuery, 'filter' | 'found'>, more: unknown) => {
      // What a search found is noted as what was searched for.
      const search = found ? this.searches.get(found) : null;
      if (search === undefined) this.noteAll();
      else this.note(`index${between}${JSON.stringify([split, asked, filter, more, ...(search ? [search] : [])])}`);
    };
    index = {
      split: of.split,
      list: (query) => {
        const { chosen, sort, offset, limit } = query;
        note('list', query, { chosen, sort, offset, limit });
        return of.list(query);
      },
      count: (query, chosen) => (note('count', query, chosen), of.count(query, chosen)),
      counts: (query, chosen) => (note('counts', query, chosen), of.counts(query, chosen)),
    };
    this.#indexes.set(key, index);
    return index;
  }
}
for (const name of Object.keys(plain) as (keyof typeof plain)[]) {
  Object.defineProperty(Reading.prototype, name, {
    value(this: Reading, one?: unknown, two?: unknown): unknown {
      // What would read like two, as someone may search for it, is not written down.
      if ((typeof one === 'string' && one.includes(between)) || (typeof two === 'string' && two.includes(between)))
        this.noteAll();
      // A list is written as its numbers with commas between.
      const with1 = one === undefined ? '' : between + String(one);
      this.note(two === undefined ? name + with1 : name + with1 + between + String(two));
      const came = (this.source[name] as (...of: unknown[]) => unknown)(one, two);
      if (name === 'search') this.searches.set(came as number[], [one, two] as Search);
      return came;
    },
  });
}

/** A category whose number of products is noted when it is asked for. */
class Counted implements CategoryRow {
  readonly id;
  readonly parentId;
  readonly slug;
  readonly name;
  readonly summary;
  readonly description;
  readonly live;

  constructor(
    private readonly row: CategoryRow,
    private readonly asked: () => void,
  ) {
    ({
      id: this.id,
      parentId: this.parentId,
      slug: this.slug,
      name: this.name,
      summary: this.summary,
      description: this.description,
      live: this.live,
    } = row);
  }

  get productCount(): number {
    this.asked();
    return this.row.productCount;
  }
}

/** What is asked of products by their numbers, and answered from their own rows. */
const ofProducts: readonly string[] = [
  ...['products', 'variants', 'options', 'tags', 'productCategories', 'attributes', 'members', 'related'],
];

/** The products that a read is about, where it comes to the same as long as these are as they were; null: other things count too. */
export function productsOf(read: string): number[] | null {
  const [, asked = '', first = '', second = ''] = read.split(between);
  const isOne = ofProducts.includes(asked);
  if (!isOne && !((asked === 'media' || asked === 'fields') && first === 'product')) return null;
  return readGiven('ids', isOne ? first : second) as number[];
}

/** Counts of filters are maps: written as lists. */
const written = (value: unknown): string =>
  JSON.stringify(value, (_, one: unknown) => (one instanceof Map ? [...(one as Map<unknown, unknown>)] : one)) ?? '';

/**
 * What a read comes to in a catalogue, as text; two that are the same are what a page would see the same. Null: nothing can be said, for it may have read
 * everything.
 *
 * @param of the catalogue in a language
 */
export function comesTo(of: (language: string) => CatalogueSource, read: string): string | null {
  if (read === all) return null;
  const [language = '', asked = '', ...given] = read.split(between);
  const source = of(language);
  if (asked === 'shop') {
    const { name, currency, locale, locales, url, email }: ShopRow = source.shop();
    return written([name, currency, locale, locales, url, email]);
  }
  if (asked === 'categories') return written(source.categories().map((row) => ({ ...row, productCount: 0 })));
  if (asked === 'productCount')
    return written(source.categories().find(({ id }) => String(id) === given[0])?.productCount);
  if (asked === 'noRedirects') return written(source.redirects().size);
  if (asked === 'redirects') {
    const [name = '', ...rest] = given;
    const redirects = source.redirects() as unknown as Record<string, (...of: string[]) => unknown>;
    return written(redirects[name]?.(...rest));
  }
  if (asked === 'index') return written(indexed(source, given.join(between)));
  const kinds: readonly Given[] = plain[asked as keyof typeof plain];
  const ask = source[asked as keyof typeof plain] as (...of: unknown[]) => unknown;
  return written(
    ask.apply(
      source,
      kinds.map((kind, at) => readGiven(kind, given[at] ?? '')),
    ),
  );
}

function readGiven(kind: Given, text: string): unknown {
  if (kind === 'ids') return text === '' ? [] : text.split(',').map(Number);
  return kind === 'number' ? Number(text) : text;
}

function indexed(source: CatalogueSource, text: string): unknown {
  type Asked = [Split | null, keyof Listings, ListQuery['filter'], unknown, Search?];
  const [split, asked, filter, more, search] = JSON.parse(text) as Asked;
  const found = search ? source.search(...search) : null;
  const index = source.index(split);
  if (asked === 'list') {
    const names = { locale: source.language, all: () => source.names() };
    return index.list({ ...(more as object), filter, found, names } as ListQuery);
  }
  const chosen = (more ?? undefined) as Chosen | undefined;
  return asked === 'count' ? index.count({ filter, found }, chosen) : index.counts({ filter, found }, chosen);
}

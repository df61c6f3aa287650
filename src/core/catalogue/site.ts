import {
  type Emptiness,
  type Named,
  type SiteFacts,
  isEmpty,
  isRecord,
  type RecordValue,
  type Value,
} from '@/core/language';
import { readPath } from '@/core/address';
import { World } from './world';
import type { CatalogueSource } from './source';

/** Products are read so many at a time. */
const batch = 500;

/** What the checker may ask about a shop, answered from its catalogue. Counted once, when first asked for. */
export class CatalogueFacts implements SiteFacts {
  readonly #source: CatalogueSource;
  readonly #counted = new Map<string, Emptiness | null>();
  readonly #leads = new Map<string, boolean>();
  #types: ReadonlySet<string> | null = null;
  #options: ReadonlySet<string> | null = null;
  #contents: ReadonlySet<string> | null = null;
  #values: ReadonlySet<string> | null = null;
  #menus: ReadonlySet<string> | null = null;

  constructor(source: CatalogueSource) {
    this.#source = source;
  }

  get contents(): ReadonlySet<string> {
    return (this.#contents ??= new Set(this.#source.contents().map((row) => row.slug)));
  }

  get menus(): ReadonlySet<string> {
    return (this.#menus ??= new Set(this.#source.menus().map((row) => row.slug)));
  }

  get locales(): readonly string[] {
    return this.#source.shop().locales;
  }

  named(object: Named): ReadonlySet<string> {
    const source = this.#source;
    if (object === 'Type') return (this.#types ??= new Set(source.productTypes()));
    if (object === 'Option') return (this.#options ??= new Set(source.optionSlugs()));
    if (object === 'Value')
      return (this.#values ??= new Set(source.facetValues().map(({ option, value }) => `${option}/${value}`)));
    const rows = object === 'Tag' ? source.allTags() : object === 'Category' ? source.categories() : source.brands();
    return new Set(rows.flatMap(({ slug, name }) => [slug, name]));
  }

  leads(path: string): boolean {
    let leads = this.#leads.get(path);
    if (leads === undefined) this.#leads.set(path, (leads = this.#find(path)));
    return leads;
  }

  #find(path: string): boolean {
    const subject = readPath(path);
    if (!subject) return false;
    const { kind, slug } = subject;
    const source = this.#source;
    if (kind === 'product') return source.productBySlug(slug) !== null;
    if (kind === 'content') return this.contents.has(slug);
    if (kind === 'category') return source.categories().some((row) => row.slug === slug);
    if (kind === 'article') return source.articles().some((row) => row.slug === slug);
    if (kind !== 'listing' || /^(?:all|search|offer)$/.test(slug)) return true;
    const [by, name = ''] = slug.split('/');
    return by === 'tag' ? source.tagBySlug(name) !== null : source.brands().some((row) => row.slug === name);
  }

  emptiness(object: string, path: readonly string[]): Emptiness | null {
    const key = `${object}.${path.join('.')}`;
    let counted = this.#counted.get(key);
    if (counted === undefined) this.#counted.set(key, (counted = this.#count(object, path)));
    return counted;
  }

  #count(object: string, path: readonly string[]): Emptiness | null {
    let empty = 0;
    let total = 0;
    let example = '';
    let known = true;
    for (const subject of this.#subjects(object)) {
      total++;
      let value: Value = subject;
      for (const name of path) {
        if (isRecord(value) && value === subject && !(name in value)) known = false;
        value = isRecord(value) ? (value[name] as Value) : null;
      }
      if (!isEmpty(value)) continue;
      empty++;
      example ||= String(subject.name ?? subject.title);
    }
    return total && known ? { empty, total, example } : null;
  }

  *#subjects(object: string): Iterable<RecordValue> {
    const same = (to: string) => to;
    const world = () => new World(this.#source, same, '/');
    if (object === 'Product') {
      const ids = allProducts(this.#source);
      for (let from = 0; from < ids.length; from += batch) yield* world().productsById(ids.slice(from, from + batch));
    } else if (object === 'Category') {
      const all = world();
      for (const row of all.categoryRows()) {
        const category = all.category(row.id);
        if (category) yield category;
      }
    } else if (object === 'Content' || object === 'Article') {
      const all = world();
      const rows = object === 'Content' ? this.#source.contents() : this.#source.articles();
      for (const { slug } of rows) {
        const page = object === 'Content' ? all.content(slug) : all.article(slug);
        if (page) yield page;
      }
    }
  }
}

/** Numbers of every product, in the order chosen by hand. */
export function allProducts(source: CatalogueSource): number[] {
  const names = { locale: source.language, all: () => source.names() };
  const query = { filter: {}, sort: 'chosen', names, offset: 0, limit: Infinity } as const;
  return source
    .index(null)
    .list(query)
    .rows.map(({ productId }) => productId);
}

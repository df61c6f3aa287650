import { freeSlug, type Named } from '@/core/exchange';
import type { GoodsRecord, FileKind, RecordReader } from '@/store';

/** Names of brands, tags and categories, with those that are made on the way. */
export class NamesMade implements Named {
  readonly #bySlug = new Map<FileKind, Map<string, GoodsRecord>>();
  readonly #byName = new Map<string, string>();
  /** New records, in the order in which they were needed. */
  readonly made: { kind: 'brand' | 'tag' | 'category'; record: GoodsRecord }[] = [];

  constructor(reader: RecordReader) {
    for (const kind of ['brand', 'tag', 'category'] as const) {
      const all = reader.all(kind);
      this.#bySlug.set(kind, new Map(all));
      for (const [slug, record] of all) this.#byName.set(this.#key(kind, String(record.name), record.parent), slug);
    }
  }

  #key(kind: string, name: string, parent: unknown = null): string {
    return `${kind} ${String(parent ?? '')} ${name.toLowerCase()}`;
  }

  #find(
    kind: 'brand' | 'tag' | 'category',
    name: string,
    more: Record<string, unknown>,
    parent: string | null = null,
  ): string {
    const known = this.#byName.get(this.#key(kind, name, parent));
    if (known !== undefined) return known;
    const all = this.#bySlug.get(kind) as Map<string, GoodsRecord>;
    // Our own files name them by slug.
    const own = all.get(name);
    if (own) return name;
    const slug = freeSlug(
      name,
      [...all.keys()].map((one) => ({ slug: one })),
    );
    const record = { slug, name, ...more };
    all.set(slug, record);
    this.#byName.set(this.#key(kind, name, parent), slug);
    this.made.push({ kind, record });
    return slug;
  }

  brand(name: string): string {
    return this.#find('brand', name, { summary: '', texts: {} });
  }

  tag(name: string): string {
    return this.#find('tag', name, { texts: {} });
  }

  category(path: readonly string[]): string {
    let parent: string | null = null;
    for (const [at, name] of path.entries()) {
      // A path may begin below the topmost category, and a single name be that of a category anywhere.
      const anywhere: string | undefined = at === 0 ? this.#anywhere(name, path.length > 1) : undefined;
      parent =
        anywhere ??
        this.#find(
          'category',
          name,
          { parent, summary: '', description: '', fields: {}, media: [], texts: {} },
          parent,
        );
    }
    return parent ?? '';
  }

  /** The one category of a name, wherever it stands; a topmost one first. `before`: only of those that were there already. */
  #anywhere(name: string, before: boolean): string | undefined {
    const top = this.#byName.get(this.#key('category', name));
    if (top !== undefined) return top;
    const lower = name.toLowerCase();
    const made = new Set(this.made.map(({ record }) => record));
    const all = [...(this.#bySlug.get('category') as Map<string, GoodsRecord>).entries()].filter(
      ([, record]) => !before || !made.has(record),
    );
    const found = all.filter(([slug, record]) => slug === name || String(record.name).toLowerCase() === lower);
    return found.length === 1 ? found[0]?.[0] : undefined;
  }
}

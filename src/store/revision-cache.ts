import { LRUCache } from 'lru-cache';
import type { Untranslated } from '@/core/catalogue';

/** Splits and languages are few; more would be someone trying addresses. */
const maxEntries = 500;
/** Rows that are cached, in bytes: some thousands of products. */
const maxRowBytes = 12_000_000;

/** Rows as they were read, with the texts that their language lacks. Nothing changes them: requests share them. */
interface Rows {
  rows: readonly object[];
  missing: readonly Untranslated[];
}

/** What was read or computed from the catalogue, cached until its revision changes. */
export class RevisionCache {
  #revision = -1;
  readonly #values = new LRUCache<string, { value: unknown }>({ max: maxEntries });
  readonly #rows: LRUCache<string, Rows> | null;

  /** `keepsRows`: no for work that reads every row once. */
  constructor(keepsRows = true) {
    this.#rows = keepsRows ? new LRUCache({ maxSize: maxRowBytes, sizeCalculation: sizeOf }) : null;
  }

  /** Tells the revision that the catalogue has now; what was computed from another is dropped. */
  at(revision: number): void {
    if (revision === this.#revision) return;
    this.#revision = revision;
    this.#values.clear();
    this.#rows?.clear();
  }

  /** Something that is computed once: an index, a list that every page needs. */
  of<T>(key: string, compute: () => T): T {
    let found = this.#values.get(key);
    if (!found) this.#values.set(key, (found = { value: compute() }));
    return found.value as T;
  }

  /** Rows of one query; the least recently used go first. */
  rows(key: string, read: () => Rows): Rows {
    let found = this.#rows?.get(key);
    if (!found) {
      found = read();
      Object.freeze(found.rows);
      found.rows.forEach(Object.freeze);
      this.#rows?.set(key, found);
    }
    return found;
  }
}

/** About how many bytes rows take: a row some, and two a character of its texts. */
function sizeOf({ rows }: Rows, key: string): number {
  let size = 200 + 2 * key.length;
  for (const row of rows) {
    size += 200;
    for (const value of Object.values(row) as unknown[])
      size += typeof value === 'string' ? 2 * value.length : Array.isArray(value) ? 100 * value.length : 0;
  }
  return size;
}

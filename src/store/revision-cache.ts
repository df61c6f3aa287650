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

/** Things that outlive a revision: indexes of some splits, as staff and as customers see them. */
const maxKept = 40;

/** How long work took that is done once for many pages, in milliseconds since the process began: it is not part of a page’s time. */
let sharedMs = 0;
let isShared = false;
export const sharedWorkMs = (): number => sharedMs;

/** Does such work; what is done within it counts once. */
function sharedWork<T>(work: () => T): T {
  if (isShared) return work();
  isShared = true;
  const began = performance.now();
  try {
    return work();
  } finally {
    isShared = false;
    sharedMs += performance.now() - began;
  }
}

/** What was read or computed from the catalogue, cached until its revision changes. */
export class RevisionCache {
  #revision = -1;
  readonly #values = new LRUCache<string, { value: unknown }>({ max: maxEntries });
  readonly #rows: LRUCache<string, Rows> | null;
  readonly #kept = new LRUCache<string, { revision: number; value: object }>({ max: maxKept });

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

  /**
   * Something large that is brought up to date from what it was at an earlier revision, where that can be.
   *
   * @param patch gives null where it cannot
   */
  patched<T extends object>(key: string, compute: () => T, patch: (before: T, since: number) => T | null): T {
    const found = this.#kept.get(key) as { revision: number; value: T } | undefined;
    if (found?.revision === this.#revision) return found.value;
    const value = sharedWork(
      () => (found && found.revision < this.#revision ? patch(found.value, found.revision) : null) ?? compute(),
    );
    this.#kept.set(key, { revision: this.#revision, value });
    return value;
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

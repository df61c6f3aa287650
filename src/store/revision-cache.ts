import { LRUCache } from 'lru-cache';

/** Splits and languages are few; more would be someone trying addresses. */
const maxEntries = 500;

/** What was computed from the catalogue, cached until its revision changes: indexes, and the lists that every page needs. */
export class RevisionCache {
  #revision = -1;
  readonly #values = new LRUCache<string, { value: unknown }>({ max: maxEntries });

  /** Tells the revision that the catalogue has now; what was computed from another is dropped. */
  at(revision: number): void {
    if (revision === this.#revision) return;
    this.#revision = revision;
    this.#values.clear();
  }

  of<T>(key: string, compute: () => T): T {
    let found = this.#values.get(key);
    if (!found) this.#values.set(key, (found = { value: compute() }));
    return found.value as T;
  }
}

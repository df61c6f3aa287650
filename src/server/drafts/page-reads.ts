import { LRUCache } from 'lru-cache';
import type { Shop } from '@/server/shop';
import type { StateRow } from '@/store';

/** States whose pages are remembered: what is live, and what was compared last. */
const states = 4;

const caches = new WeakMap<Shop, LRUCache<string, PageReads>>();

/** What the pages of a state were made from. Many were made from the same: each such set is kept once, and so is each read. */
export class PageReads {
  readonly #pages = new Map<string, number>();
  readonly #sets: number[][] = [];
  readonly #bySet = new Map<string, number>();
  readonly #reads: string[] = [];
  readonly #byRead = new Map<string, number>();

  /** Those of a state as it is, of the catalogue as it is, on a day: another once any of these is. */
  static of(shop: Shop, { id, revision }: StateRow, day: string): PageReads {
    let cache = caches.get(shop);
    if (!cache) caches.set(shop, (cache = new LRUCache({ max: states })));
    const key = `${id} ${revision} ${shop.catalogue().revision} ${day}`;
    let reads = cache.get(key);
    if (!reads) cache.set(key, (reads = new PageReads()));
    return reads;
  }

  /** How many pages are known. */
  get size(): number {
    return this.#pages.size;
  }

  /** The number of what a page was made from; null: it is not known. */
  get(path: string): number | null {
    return this.#pages.get(path) ?? null;
  }

  put(path: string, reads: Iterable<string>): number {
    const numbers = [...reads].map((read) => this.#numberOf(read)).sort((a, b) => a - b);
    const key = numbers.join(' ');
    let set = this.#bySet.get(key);
    if (set === undefined) this.#bySet.set(key, (set = this.#sets.push(numbers) - 1));
    this.#pages.set(path, set);
    return set;
  }

  readsOf(set: number): string[] {
    return (this.#sets[set] ?? []).map((number) => this.#reads[number] as string);
  }

  #numberOf(read: string): number {
    let number = this.#byRead.get(read);
    if (number === undefined) this.#byRead.set(read, (number = this.#reads.push(read) - 1));
    return number;
  }
}

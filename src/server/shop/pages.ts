import { LRUCache } from 'lru-cache';

/** A page ready to send. */
export interface MadePage {
  bytes: Uint8Array<ArrayBuffer>;
  etag: string;
}

/** A page that is kept: what it was made from (null: that is not known), and the state of release and goods that it is good for. */
export interface KeptPage extends MadePage {
  from: string | null;
  of: string;
}

/** What pages came to, each so often. */
export type PageCounts = Record<'made' | 'again' | 'same', number>;

/** Bytes of cached pages with their keys and what they were made from; the least recently requested go first. */
const maxBytes = 64_000_000;

/**
 * Live pages as they were last rendered, each under its address and what the visitor has in the cart. Nothing has to be cleared when something changes: a
 * page says what state it is good for, and what it was made from tells whether it is good for another too.
 */
export class Pages {
  readonly #pages = new LRUCache<string, KeptPage>({
    maxSize: maxBytes,
    maxEntrySize: maxBytes / 20,
    sizeCalculation: ({ bytes, from }, key) => bytes.length + (from?.length ?? 0) + key.length * 2,
  });
  /** Names the groups of pages that are sent, for caches that are told what has changed; null: none is. */
  sent: { groupsFor(page: { from: string | null }): string } | null = null;
  /** How often a page was made that was not there, made again, and found to be the same: nothing that it was made from had changed. */
  readonly counts: PageCounts = { made: 0, again: 0, same: 0 };

  get(key: string): KeptPage | null {
    return this.#pages.get(key) ?? null;
  }

  put(key: string, page: KeptPage, because: keyof PageCounts): void {
    this.counts[because]++;
    this.#pages.set(key, page);
  }
}

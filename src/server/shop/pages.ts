import { LRUCache } from 'lru-cache';

/** A page ready to send. */
export interface MadePage {
  bytes: Uint8Array<ArrayBuffer>;
  etag: string;
}

/** Bytes of cached pages with their keys; the least recently requested go first. */
const maxBytes = 48_000_000;

/**
 * Live pages as they were last rendered. Each is cached under all that it was rendered from (release, catalogue, day, address,
 * what the visitor has in the cart), so that nothing has to be cleared when something changes: it is not found again.
 */
export class Pages {
  readonly #pages = new LRUCache<string, MadePage>({
    maxSize: maxBytes,
    maxEntrySize: maxBytes / 20,
    sizeCalculation: ({ bytes }, key) => bytes.length + key.length * 2,
  });

  get(key: string): MadePage | null {
    return this.#pages.get(key) ?? null;
  }

  put(key: string, page: MadePage): void {
    this.#pages.set(key, page);
  }
}

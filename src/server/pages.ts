/** A page ready to send. */
export interface MadePage {
  bytes: Uint8Array<ArrayBuffer>;
  etag: string;
}

/** Bytes of pages that are kept; the least lately asked for go first. */
const maxBytes = 64_000_000;

/**
 * Live pages as they were last made. Each is kept under all that it was made from (release, catalogue, day, address, what
 * the visitor has in the cart), so that nothing has to be cleared when something changes: it is not found again.
 */
export class Pages {
  readonly #made = new Map<string, MadePage>();
  #size = 0;

  get(key: string): MadePage | null {
    const page = this.#made.get(key);
    if (!page) return null;
    this.#made.delete(key);
    this.#made.set(key, page);
    return page;
  }

  put(key: string, page: MadePage): void {
    if (page.bytes.length > maxBytes / 20) return;
    this.#made.set(key, page);
    this.#size += page.bytes.length + key.length * 2;
    for (const [oldest, { bytes }] of this.#made) {
      if (this.#size <= maxBytes) return;
      this.#made.delete(oldest);
      this.#size -= bytes.length + oldest.length * 2;
    }
  }
}

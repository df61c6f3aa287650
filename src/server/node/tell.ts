import { everyPage, listOf } from '@/server/storefront';

/** So many groups are named in one request. */
const atOnce = 200;
/** Of more groups than this, a cache drops every page. */
const most = 2000;
/** A cache may keep an answer that was on its way while something changed: it is told once more after so long, in milliseconds. */
const againAfter = 1000;
/** A cache that does not answer is told again so much later, in milliseconds. */
const retryAfter = 1000;
/** It answers within so long, in milliseconds. */
const patience = 5000;

/**
 * Tells a cache in front of nodes which groups of pages are no longer as they were: a request PURGE, whose field `Cache-Group-Invalidation` names them as
 * RFC 9875, 3 does. While it does not answer, they are kept for when it does.
 */
export class ToldCache {
  #groups = new Set<string>();
  #timer: NodeJS.Timeout | null = null;
  #telling: Promise<void> | null = null;
  #said = '';

  /** @throws RangeError when it is no address */
  constructor(
    private readonly address: string,
    private readonly say: (line: string) => void,
  ) {
    if (!/^https?:$/.test(URL.canParse(address) ? new URL(address).protocol : ''))
      throw new RangeError(`“${address}” is no address of a cache: it is like http://127.0.0.1:6081.`);
  }

  /** Tells it now, and once more a moment later. */
  tell(groups: readonly string[]): void {
    this.#add(groups);
    void this.#sendAll().then(() => {
      setTimeout(() => {
        this.#add(groups);
        void this.#sendAll();
      }, againAfter).unref();
    });
  }

  /** Resolves once it was told all that is left, or does not answer. */
  async close(): Promise<void> {
    await this.#sendAll();
    if (this.#timer) clearTimeout(this.#timer);
  }

  #add(groups: readonly string[]): void {
    for (const one of groups) this.#groups.add(one);
    if (this.#groups.size > most) this.#groups = new Set([everyPage]);
  }

  #sendAll(): Promise<void> {
    this.#telling ??= this.#send().finally(() => (this.#telling = null));
    return this.#telling;
  }

  async #send(): Promise<void> {
    while (this.#groups.size) {
      const some = [...this.#groups].slice(0, atOnce);
      for (const one of some) this.#groups.delete(one);
      try {
        const { ok, status } = await fetch(this.address, {
          method: 'PURGE',
          headers: { 'Cache-Group-Invalidation': listOf(some) },
          signal: AbortSignal.timeout(patience),
        });
        if (!ok) throw new Error(`it answers ${status}`);
        this.#said = '';
      } catch (error) {
        this.#add(some);
        const { message, cause } = error as Error;
        const why = cause instanceof Error ? cause.message : message;
        const line = `The cache at ${this.address} cannot be told what has changed: ${why}. It is tried again.`;
        if (line !== this.#said) this.say((this.#said = line));
        this.#timer = setTimeout(() => void this.#sendAll(), retryAfter).unref();
        return;
      }
    }
  }
}

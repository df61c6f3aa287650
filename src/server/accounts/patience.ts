import { LRUCache } from 'lru-cache';

/** Longest wait between two tries, in milliseconds. */
const longest = 60_000;
/** Names and devices that are remembered: those that failed last. */
const most = 10_000;

/**
 * Slows down who tries passwords: after a few failures the next try waits a second, then two, then four, to a minute at most. Nobody is shut out for
 * good: a try after the wait is looked at, and a device that someone signed in on before has a count of its own. Times in milliseconds.
 */
export class Patience {
  readonly #failures = new LRUCache<string, { count: number; at: number }>({ max: most });

  /** `free`: failures before anyone has to wait. */
  constructor(readonly free = 5) {}

  /** How long to wait before a try of this key is looked at; 0: not at all. A clock that was put back does not make it longer. */
  waitOf(key: string, now: number): number {
    const failed = this.#failures.get(key);
    if (!failed || failed.count < this.free) return 0;
    const wait = Math.min(longest, 1000 * 2 ** Math.min(failed.count - this.free, 10));
    const since = now - failed.at;
    return since < 0 ? Math.min(wait, longest) : Math.max(0, wait - since);
  }

  failed(key: string, now: number): void {
    const count = (this.#failures.get(key)?.count ?? 0) + 1;
    this.#failures.set(key, { count, at: now });
  }

  succeeded(key: string): void {
    this.#failures.delete(key);
  }
}

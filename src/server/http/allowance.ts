import { LRUCache } from 'lru-cache';
import { isIPv6 } from 'node:net';

/**
 * So many of something in a while for each address of the network, counted in memory: whoever asks for more waits. The clock
 * is the machine's running time, so that setting it forward or back frees and locks out nobody.
 */
export class Allowance {
  readonly #most: number;
  readonly #taken: LRUCache<string, number>;

  /** `most` in `whileMs` milliseconds. */
  constructor(most: number, whileMs: number) {
    this.#most = most;
    this.#taken = new LRUCache({
      max: 50_000,
      ttl: whileMs,
      noUpdateTTL: true,
      perf: { now: () => performance.now() },
    });
  }

  /** Takes one; false where all that the address may have is taken. */
  take(address: string): boolean {
    const key = networkOf(address);
    const taken = this.#taken.get(key) ?? 0;
    if (taken >= this.#most) return false;
    this.#taken.set(key, taken + 1);
    return true;
  }
}

/** What one party has of the network: an IPv4 address, or the first 64 bits of an IPv6 address (RFC 4291, 2.5.4). */
export function networkOf(address: string): string {
  const plain = address.replace(/^::ffff:(?=\d+\.)/i, '').replace(/%.*$/, '');
  if (!isIPv6(plain)) return plain;
  const [head = '', tail] = plain.split('::');
  const before = head ? head.split(':') : [];
  const after = tail ? tail.split(':') : [];
  const groups =
    tail === undefined ? before : [...before, ...Array<string>(8 - before.length - after.length).fill('0'), ...after];
  return groups
    .slice(0, 4)
    .map((group) => parseInt(group, 16).toString(16))
    .join(':');
}

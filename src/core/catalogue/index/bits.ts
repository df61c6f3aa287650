/** A set of whole numbers from 0 up to a length, one bit each. */
export class Bits {
  readonly words: Uint32Array;

  constructor(readonly length: number) {
    this.words = new Uint32Array((length + 31) >>> 5);
  }

  /** All of them. */
  static full(length: number): Bits {
    const bits = new Bits(length);
    bits.words.fill(0xffffffff);
    const rest = length & 31;
    if (rest) bits.words[bits.words.length - 1] = 0xffffffff >>> (32 - rest);
    return bits;
  }

  static of(length: number, members: Iterable<number>): Bits {
    const bits = new Bits(length);
    for (const member of members) bits.add(member);
    return bits;
  }

  add(at: number): void {
    (this.words[at >>> 5] as number) |= 1 << (at & 31);
  }

  has(at: number): boolean {
    return (((this.words[at >>> 5] as number) >>> (at & 31)) & 1) === 1;
  }

  copy(): Bits {
    const bits = new Bits(this.length);
    bits.words.set(this.words);
    return bits;
  }

  /** Keeps what is in the other too. */
  keep(other: Bits): this {
    const { words } = this;
    for (let at = 0; at < words.length; at++) (words[at] as number) &= other.words[at] as number;
    return this;
  }

  /** Takes in what is in the other. */
  join(other: Bits): this {
    const { words } = this;
    for (let at = 0; at < words.length; at++) (words[at] as number) |= other.words[at] as number;
    return this;
  }

  count(): number {
    let count = 0;
    for (const word of this.words) count += ones(word);
    return count;
  }

  /** How many are in both. */
  countWith(other: Bits): number {
    let count = 0;
    const { words } = this;
    for (let at = 0; at < words.length; at++) count += ones((words[at] as number) & (other.words[at] as number));
    return count;
  }

  /** Calls with each member of this set (and of the other, when one is given), in order. */
  each(visit: (member: number) => void, other?: Bits): void {
    const { words } = this;
    for (let at = 0; at < words.length; at++) {
      let word = words[at] as number;
      if (other) word &= other.words[at] as number;
      while (word) {
        const low = word & -word;
        visit((at << 5) + 31 - Math.clz32(low));
        word ^= low;
      }
    }
  }
}

/** Bits set in a word of 32 (counted in pairs, then fours, then bytes). */
function ones(word: number): number {
  let n = word - ((word >>> 1) & 0x55555555);
  n = (n & 0x33333333) + ((n >>> 2) & 0x33333333);
  return Math.imul((n + (n >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}

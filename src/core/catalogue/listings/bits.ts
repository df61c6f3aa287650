/** A set of whole numbers from 0 up to a length, one bit each. */
export class Bits {
  /** Signed: what the engine works with fastest. */
  readonly words: Int32Array;

  constructor(readonly length: number) {
    this.words = new Int32Array((length + 31) >>> 5);
  }

  /** All of them. */
  static full(length: number): Bits {
    const bits = new Bits(length);
    bits.words.fill(-1);
    const rest = length & 31;
    if (rest) bits.words[bits.words.length - 1] = -1 >>> (32 - rest);
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
    const mine = this.words;
    const theirs = other.words;
    for (let at = 0; at < mine.length; at++) (mine[at] as number) &= theirs[at] as number;
    return this;
  }

  /** Takes in what is in the other. */
  join(other: Bits): this {
    const mine = this.words;
    const theirs = other.words;
    for (let at = 0; at < mine.length; at++) (mine[at] as number) |= theirs[at] as number;
    return this;
  }

  /** Leaves out what is in the other. */
  leave(other: Bits): this {
    const mine = this.words;
    const theirs = other.words;
    for (let at = 0; at < mine.length; at++) (mine[at] as number) &= ~(theirs[at] as number);
    return this;
  }

  /** Takes one in, or leaves it out. */
  put(at: number, is: boolean): void {
    if (is) this.add(at);
    else (this.words[at >>> 5] as number) &= ~(1 << (at & 31));
  }

  count(): number {
    let count = 0;
    for (const word of this.words) count += ones(word);
    return count;
  }

  /** How many are in both. */
  countWith(other: Bits): number {
    let count = 0;
    const mine = this.words;
    const theirs = other.words;
    for (let at = 0; at < mine.length; at++) count = (count + ones((mine[at] as number) & (theirs[at] as number))) | 0;
    return count;
  }

  /** The members of this set (and of the other, when one is given), in order. */
  members(other: Bits = this): Int32Array {
    const mine = this.words;
    const theirs = other.words;
    const members = new Int32Array(this.countWith(other));
    let to = 0;
    for (let at = 0; at < mine.length; at++) {
      let word = (mine[at] as number) & (theirs[at] as number);
      while (word) {
        const low = word & -word;
        members[to++] = (at << 5) + 31 - Math.clz32(low);
        word ^= low;
      }
    }
    return members;
  }
}

/** Bits set in a word of 32 (counted in pairs, then fours, then bytes). */
function ones(word: number): number {
  let n = (word - ((word >> 1) & 0x55555555)) | 0;
  n = ((n & 0x33333333) + ((n >> 2) & 0x33333333)) | 0;
  return Math.imul(((n + (n >> 4)) | 0) & 0x0f0f0f0f, 0x01010101) >>> 24;
}

import { createHmac, timingSafeEqual } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import { pictureKey, type Statements } from '@/store';
import { readSize } from './picture-size';

/** Characters of a signature: 96 bits. */
const length = 16;

/**
 * Signs addresses of pictures in a size, so that only sizes which a page asks for are rendered. The key belongs to the data
 * folder: addresses stay good when the server starts again.
 */
export class PictureSigner {
  readonly #sql: Statements;
  #key: Buffer | null = null;
  readonly #known = new LRUCache<string, string>({ max: 20_000 });

  constructor(sql: Statements) {
    this.#sql = sql;
  }

  /** The address with its signature; one that is not of a picture here, or asks for no size, stays as it is. */
  sign(address: string): string {
    const known = this.#known.get(address);
    if (known !== undefined) return known;
    const text = textOf(address);
    const signed = text === null ? address : `${address}&s=${this.#signature(text)}`;
    this.#known.set(address, signed);
    return signed;
  }

  /** Whether the size that an address asks for was signed here. */
  isSigned(address: string): boolean {
    const given = Buffer.from(/[?&]s=([\w-]{1,64})(?:&|$)/.exec(address)?.[1] ?? '');
    const text = textOf(address);
    if (text === null || given.length !== length) return false;
    return timingSafeEqual(given, Buffer.from(this.#signature(text)));
  }

  #signature(text: string): string {
    this.#key ??= pictureKey(this.#sql);
    return createHmac('sha256', this.#key).update(`picture\n${text}`).digest('base64url').slice(0, length);
  }
}

/** What is signed of an address: the picture's path and its size, however they are written. */
function textOf(address: string): string | null {
  if (!address.startsWith('/media/') || !URL.canParse(address, 'http://shop.invalid')) return null;
  const { pathname, searchParams } = new URL(address, 'http://shop.invalid');
  const size = readSize(searchParams);
  if (!size) return null;
  try {
    const { width, height, crop, part } = size;
    return [decodeURIComponent(pathname), width, height, crop, ...(part ? [part.join()] : [])].join('\n');
  } catch {
    return null;
  }
}

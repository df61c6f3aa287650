import { decodeHTMLAttribute } from 'entities';
import { joinedAddress, blockedAddress, type Piece, type Reporter } from './address';
import { escapeText } from './escape';

const plain = /^[\p{L}\p{N} #%.,()+\-_/]*$/u;
const loading = /(?:url|image|image-set|src|cross-fade|element|expression|paint|attr|import)\s*\(/gi;

/** Values that can do nothing in a declaration written without brackets, quotes, escapes and comments. */
export const harmlessStyle = /^[\w #%.,+-]*$/;

/** Where a value stands in a style attribute, by what was written before it. */
export function stylePlace(before: string): 'value' | 'address' | 'property' {
  if (openAddress(before) !== null) return 'address';
  const rest = withoutComments(before).replace(/"[^"]*"|'[^']*'/g, '""');
  const declaration = rest.slice(rest.lastIndexOf(';') + 1);
  return declaration.includes(':') ? 'value' : 'property';
}

/** What stands so far in the `url( )` that a text ends in; null outside one. */
function openAddress(before: string): string | null {
  const from = before.toLowerCase().lastIndexOf('url(');
  return from < 0 ? null : (/^\s*["']?([^"')]*)$/.exec(before.slice(from + 4))?.[1] ?? null);
}

/** Comments taken out, in one pass. */
function withoutComments(css: string): string {
  let out = '';
  let at = 0;
  for (let open = css.indexOf('/*'); open >= 0; open = css.indexOf('/*', at)) {
    out += css.slice(at, open);
    const close = css.indexOf('*/', open + 2);
    if (close < 0) return out;
    at = close + 2;
  }
  return out + css.slice(at);
}

/** A value in a declaration: where its text begins and ends in what was read of it so far. */
interface Stretch {
  piece: { value: string };
  from: number;
  to: number;
}

/**
 * A style attribute joined from what the template wrote and values. A value passes when it is plain and when its declaration,
 * joined, calls nothing by a name that the value has a part in and nothing more that loads. What does not pass is left out and
 * reported, and so are the further values of a declaration that a value tried to change. In a written `url( )` a value is part
 * of an address.
 */
export function joinedStyle(pieces: readonly Piece[], reporter: Reporter): string {
  return new StyleJoin(pieces, reporter).run();
}

class StyleJoin {
  /** The declaration so far, as a browser reads it, and the values in it. */
  #declaration = '';
  #values: Stretch[] = [];
  /** A value tried to make the declaration another: its further values are left out. */
  #changed = false;
  readonly #refused = new Set<Piece>();
  readonly #out: (string | Piece)[] = [];

  constructor(
    readonly pieces: readonly Piece[],
    readonly reporter: Reporter,
  ) {}

  run(): string {
    this.pieces.forEach((piece, at) => {
      if ('written' in piece) {
        this.#out.push(piece);
        this.#read(decodeHTMLAttribute(piece.written));
      } else if (openAddress(this.#declaration) !== null) this.#address(piece);
      else this.#value(piece, this.pieces[at + 1]);
    });
    for (const piece of this.pieces)
      if ('value' in piece && this.#refused.has(piece)) this.reporter.refusedStyle(piece.value);
    return this.#out
      .map((one) => {
        if (typeof one === 'string') return one;
        if ('written' in one) return one.written;
        return this.#refused.has(one) ? '' : escapeText(one.value);
      })
      .join('');
  }

  #read(written: string): void {
    const end = written.lastIndexOf(';');
    if (end >= 0) {
      this.#values = [];
      this.#changed = false;
    }
    this.#declaration = end < 0 ? this.#declaration + written : written.slice(end + 1);
  }

  #address(piece: { value: string }): void {
    const address = addressIn(openAddress(this.#declaration) ?? '', piece.value);
    if (address === null) this.#refused.add(piece);
    else {
      this.#out.push(escapeText(address));
      this.#declaration += address;
    }
  }

  #value(piece: { value: string }, next: Piece | undefined): void {
    this.#out.push(piece);
    if (this.#changed || !plain.test(piece.value)) {
      this.#refused.add(piece);
      return;
    }
    const before = this.#declaration;
    const after = next && 'written' in next ? (decodeHTMLAttribute(next.written).split(';')[0] ?? '') : '';
    const stretch = { piece, from: before.length, to: before.length + piece.value.length };
    if (sound(before + piece.value + after, [...this.#values, stretch])) {
      this.#values.push(stretch);
      this.#declaration += piece.value;
      return;
    }
    this.#refused.add(piece);
    this.#changed = true;
    // Without this value, too, those before it may have made a name of what comes next.
    if (!sound(before + after, this.#values)) for (const { piece: other } of this.#values) this.#refused.add(other);
  }
}

/** A value as part of an address that was begun; null when the whole is none that may be. */
function addressIn(open: string, value: string): string | null {
  const pieces: Piece[] = open ? [{ written: escapeText(open) }, { value }] : [{ value }];
  const joined = joinedAddress(pieces, null, null);
  if (joined === blockedAddress) return null;
  return decodeHTMLAttribute(joined)
    .slice(open.length)
    .replace(/['"()\\\s;]/g, (sign) => percent(sign));
}

/** Whether the values of a declaration leave what it calls, and where its comments begin, as it was written. */
function sound(declaration: string, values: readonly Stretch[]): boolean {
  if (!values.length) return true;
  const bare = values.reduceRight((all, { from, to }) => `${all.slice(0, from)}0${all.slice(to)}`, declaration);
  const count = (text: string, pattern: RegExp) => text.match(pattern)?.length ?? 0;
  if (count(declaration, /\/\*/g) !== count(bare, /\/\*/g)) return false;
  if (count(unescapeCss(declaration), loading) !== count(unescapeCss(bare), loading)) return false;
  for (const { index, 0: name } of declaration.matchAll(/[\w\\\u0080-\uffff-]+(?=\()/g)) {
    const end = index + name.length;
    // A name that is one value's own is that value's business: `rgb(1, 2, 3)`. One that is joined is nobody's.
    const whole = values.some(({ from, to }) => from <= index && to > end);
    if (!whole && values.some(({ from, to }) => from < end && to > index)) return false;
  }
  return true;
}

const percent = (sign: string) => `%${sign.charCodeAt(0).toString(16).toUpperCase().padStart(2, '0')}`;

function unescapeCss(text: string): string {
  return text.replace(/\\(?:([0-9a-fA-F]{1,6})\s?|([^]))/g, (_, hex: string | undefined, sign: string) =>
    hex ? String.fromCodePoint(Math.min(parseInt(hex, 16) || 0xfffd, 0x10ffff)) : sign,
  );
}

import { decodeHTMLAttribute } from 'entities';
import { joinedAddress, blockedAddress, type Piece, type Reporter } from './address';
import { escapeText } from './escape';

const plain = /^[\p{L}\p{N} #%.,()+\-_/]*$/u;
const loading = /(?:url|image|image-set|src|cross-fade|element|expression|paint|attr|import)\s*\(/gi;

/** Values that can do nothing in a declaration written without brackets, quotes, escapes and comments. */
export const harmlessStyle = /^[\w #%.,+-]*$/;

/** Where a value stands in a style attribute, by what was written before it. */
export function stylePlace(before: string): 'value' | 'address' | 'property' {
  const rest = before
    .replace(/\/\*[^]*?\*\//g, '')
    .replace(/"[^"]*"|'[^']*'/g, (quoted) => (quoted.length ? '""' : ''));
  if (/url\(\s*["']?[^"')]*$/i.test(before)) return 'address';
  const declaration = rest.slice(rest.lastIndexOf(';') + 1);
  return declaration.includes(':') ? 'value' : 'property';
}

/**
 * A style attribute joined from what the template wrote and values. A value passes when it is plain and when the
 * declaration, with it, calls nothing that loads; what does not pass is left out and reported.
 */
export function joinedStyle(pieces: Piece[], reporter: Reporter): string {
  let out = '';
  let judged = '';
  for (const piece of pieces) {
    if ('written' in piece) {
      out += piece.written;
      judged += decodeHTMLAttribute(piece.written);
    } else if (stylePlace(judged) === 'address') {
      const open = /url\(\s*["']?([^"')]*)$/i.exec(judged)?.[1] ?? '';
      const pieces: Piece[] = open ? [{ written: open }, piece] : [piece];
      const address = joinedAddress(pieces, null, null);
      if (address === blockedAddress) reporter.refusedStyle(piece.value);
      else {
        const safe = unescaped(address)
          .slice(open.length)
          .replace(/['"()\\\s]/g, (sign) => percent(sign));
        out += escapeText(safe);
        judged += safe;
      }
    } else {
      const before = judged.slice(judged.lastIndexOf(';') + 1);
      if (plain.test(piece.value) && loads(before + piece.value) === loads(before)) {
        out += escapeText(piece.value);
        judged += piece.value;
      } else {
        reporter.refusedStyle(piece.value);
      }
    }
  }
  return out;
}

/** How many calls of a declaration load something: a value may add none, not even to a name begun before it. */
function loads(declaration: string): number {
  return unescapeCss(declaration).match(loading)?.length ?? 0;
}

const percent = (sign: string) => `%${sign.charCodeAt(0).toString(16).toUpperCase().padStart(2, '0')}`;

const unescaped = (text: string) => decodeHTMLAttribute(text);

function unescapeCss(text: string): string {
  return text.replace(/\\(?:([0-9a-fA-F]{1,6})\s?|([^]))/g, (_, hex: string | undefined, sign: string) =>
    hex ? String.fromCodePoint(Math.min(parseInt(hex, 16) || 0xfffd, 0x10ffff)) : sign,
  );
}

import { asList, Day, Html, isRecord, keyOf, Money, type RecordValue, type Value } from './values';

/** Equal by value and type; records when they are the same object of the catalogue. */
export function equal(a: Value, b: Value): boolean {
  if (a === b) return true;
  if (a === null || a === undefined) return b === null || b === undefined;
  if (typeof a !== 'object' || typeof b !== 'object' || b === null) return false;
  if (a instanceof Money) return b instanceof Money && a.amount === b.amount && a.currency === b.currency;
  if (a instanceof Day) return b instanceof Day && a.number === b.number;
  if (a instanceof Html) return b instanceof Html && a.markup === b.markup;
  if (Array.isArray(a)) return Array.isArray(b) && a.length === b.length && a.every((item, at) => equal(item, b[at]));
  if (!isRecord(a) || !isRecord(b)) return false;
  const key = keyOf(a);
  return key !== null && key === keyOf(b);
}

/** Below 0, 0 or above 0 for two numbers, texts (by code point), Money of one currency or Days; null for any other pair. */
export function order(a: Value, b: Value): number | null {
  if (typeof a === 'number') return typeof b === 'number' ? a - b : null;
  if (typeof a === 'string') return typeof b === 'string' ? byCodePoint(a, b) : null;
  if (a instanceof Money) return b instanceof Money && a.currency === b.currency ? a.amount - b.amount : null;
  if (a instanceof Day) return b instanceof Day ? a.number - b.number : null;
  return null;
}

function byCodePoint(a: string, b: string): number {
  const length = Math.min(a.length, b.length);
  for (let at = 0; at < length; at++) {
    const x = a.charCodeAt(at);
    const y = b.charCodeAt(at);
    if (x === y) continue;
    // UTF-16 puts the astral planes (surrogates) below U+E000 to U+FFFF; by code point they come above.
    const high = (code: number) => (code >= 0xd800 && code <= 0xdfff ? code + 0x10000 : code);
    return high(x) - high(y);
  }
  return a.length - b.length;
}

export const less = (a: Value, b: Value) => (order(a, b) ?? NaN) < 0;
export const lessOrEqual = (a: Value, b: Value) => (order(a, b) ?? NaN) <= 0;
export const more = (a: Value, b: Value) => (order(a, b) ?? NaN) > 0;
export const moreOrEqual = (a: Value, b: Value) => (order(a, b) ?? NaN) >= 0;

/** Text in text; an item in a list; text in a list of records, by slug or name. */
export function contains(item: Value, whole: Value): boolean {
  if (typeof whole === 'string') return typeof item === 'string' && whole.includes(item);
  return asList(whole).some(
    (other) =>
      equal(item, other) ||
      (typeof item === 'string' &&
        isRecord(other) &&
        ((other as RecordValue).slug === item || (other as RecordValue).name === item)),
  );
}

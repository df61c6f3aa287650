import { workOn, type Meter } from './meter';
import { indexIn } from './search';
import { asList, Day, Html, isRecord, keyOf, Money, RecordValue, type Value } from './values';

/** Equal by value and type; records when they are the same object of the catalogue. */
export function equal(a: Value, b: Value, meter: Meter | null = null): boolean {
  if (typeof a === 'string' && typeof b === 'string') {
    if (a.length !== b.length) return false;
    workOn(a, meter);
    return a === b;
  }
  if (a === b) return true;
  if (a === null || a === undefined) return b === null || b === undefined;
  if (typeof a !== 'object' || typeof b !== 'object' || b === null) return false;
  if (a instanceof Money) return b instanceof Money && a.amount === b.amount && a.currency === b.currency;
  if (a instanceof Day) return b instanceof Day && a.number === b.number;
  if (a instanceof Html) return b instanceof Html && a.markup === b.markup;
  if (Array.isArray(a)) {
    if (!Array.isArray(b) || a.length !== b.length) return false;
    return a.every((item, at) => {
      meter?.work(1);
      return equal(item, b[at], meter);
    });
  }
  if (!isRecord(a) || !isRecord(b)) return false;
  const key = keyOf(a);
  return key !== null && key === keyOf(b);
}

/** Below 0, 0 or above 0 for two numbers, texts (by code point), Money of one currency or Days; null for any other pair. */
export function order(a: Value, b: Value, meter: Meter | null = null): number | null {
  if (typeof a === 'number') return typeof b === 'number' ? a - b : null;
  if (typeof a === 'string') {
    if (typeof b !== 'string') return null;
    workOn(a.length < b.length ? a : b, meter);
    return byCodePoint(a, b);
  }
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

export const less = (a: Value, b: Value, meter: Meter) => (order(a, b, meter) ?? NaN) < 0;
export const lessOrEqual = (a: Value, b: Value, meter: Meter) => (order(a, b, meter) ?? NaN) <= 0;
export const more = (a: Value, b: Value, meter: Meter) => (order(a, b, meter) ?? NaN) > 0;
export const moreOrEqual = (a: Value, b: Value, meter: Meter) => (order(a, b, meter) ?? NaN) >= 0;

/** Text in text; an item in a list; text in a list of records, by slug or name. */
export function contains(item: Value, whole: Value, meter: Meter | null = null): boolean {
  if (typeof whole === 'string') {
    if (typeof item !== 'string') return false;
    workOn(whole, meter);
    return indexIn(whole, item) >= 0;
  }
  return asList(whole).some((other) => {
    meter?.work(1);
    if (equal(item, other, meter)) return true;
    if (typeof item !== 'string' || !isRecord(other)) return false;
    const { slug, name } = other as RecordValue;
    if (slug === item || name === item) return true;
    const earlier = (other as unknown as Record<symbol, readonly string[] | undefined>)[RecordValue.earlier];
    return earlier?.includes(item) ?? false;
  });
}

import { minorDigits } from './currencies';
import type { Meter } from './meter';
import { Day, dayOf, Html, Money, type Value } from './values';

/** A result to 15 significant decimal digits, which every double holds (IEEE 754): 0.1 + 0.2 is 0.3. None for what is not a number. */
function decimal(n: number): number | null {
  if (Number.isSafeInteger(n)) return n || 0;
  return Number.isFinite(n) ? Number(n.toPrecision(15)) : null;
}

/** Decimals of a number as it is written; more than any has where it is written with an exponent. */
function places(n: number): number {
  if (Number.isInteger(n)) return 0;
  const text = String(n);
  return text.includes('e') ? 100 : text.length - text.indexOf('.') - 1;
}

/** A sum has no more decimals than what was added: what floating point adds beyond, where nearly all cancels out, is noise. */
function sum(a: number, b: number): number | null {
  const n = a + b;
  if (Number.isSafeInteger(n) || !Number.isFinite(n)) return decimal(n);
  const digits = Math.max(places(a), places(b));
  return decimal(digits <= 20 ? Number(n.toFixed(digits)) : n);
}

/** Two numbers as they are written, each times the same power of ten, and that power; null where they would not be whole. */
function scaled(a: number, b: number): [a: number, b: number, scale: number] | null {
  const scale = 10 ** Math.max(places(a), places(b));
  const [left, right] = [Math.round(a * scale), Math.round(b * scale)];
  return Number.isSafeInteger(left) && Number.isSafeInteger(right) && right !== 0 ? [left, right, scale] : null;
}

function quotient(a: number, b: number): number | null {
  const [left, right] = scaled(a, b) ?? [a, b];
  return decimal(left / right);
}

/** What is left of a division, of the numbers as they are written: of 5.3 by 0.1 nothing is. */
function rest(a: number, b: number): number | null {
  const [left, right, scale] = scaled(a, b) ?? [a, b, 1];
  return decimal((left % right) / scale);
}

/** Rounds half away from zero to whole numbers, on the digits as they are written (1.005 × 100 is 100.5, not 100.49…). */
export function roundAway(n: number): number {
  const size = Math.abs(n);
  const near = Math.round(size);
  // What floating point left below a half is a half: digits past the 12th significant one are noise.
  const exact = Number(size.toPrecision(12));
  const rounded = exact - Math.floor(exact) >= 0.5 ? Math.floor(exact) + 1 : Math.floor(exact);
  return Math.sign(n) * (Number.isSafeInteger(rounded) ? rounded : near) || 0;
}

/** Rounds half away from zero at `digits` decimals, on the decimal digits as written. */
export function roundDigits(n: number, digits: number): number {
  const places = Math.min(15, Math.max(0, Math.trunc(digits)));
  if (Math.abs(n) >= 1e21) return n;
  const written = plainWriting(Math.abs(n));
  const point = written.indexOf('.');
  if (point < 0 || written.length - point - 1 <= places) return n;
  const significant = written.slice(0, point) + written.slice(point + 1, point + 1 + places);
  const up = (written.charCodeAt(point + 1 + places) as number) >= 53;
  const units = BigInt(significant) + (up ? 1n : 0n);
  const all = units.toString().padStart(places + 1, '0');
  const result = Number(places ? `${all.slice(0, -places)}.${all.slice(-places)}` : all);
  return n < 0 ? -result || 0 : result;
}

/** A number's own digits without an exponent: `1e-7` as `0.0000001`. */
function plainWriting(n: number): string {
  const text = String(n);
  const [, digits, exponent] = /^(\d(?:\.\d+)?)e-(\d+)$/.exec(text) ?? [];
  if (digits === undefined) return text;
  return `0.${'0'.repeat(Number(exponent) - 1)}${digits.replace('.', '')}`;
}

function money(amount: number, currency: string): Money | null {
  const whole = roundAway(amount);
  return Number.isSafeInteger(whole) ? new Money(whole, currency) : null;
}

/** An amount in a currency's main unit (pounds), as Money; none where it has no whole number of minor units that a double holds. */
export function moneyOf(amount: number, currency: string): Money | null {
  const digits = minorDigits(currency);
  return money(roundDigits(amount, digits) * 10 ** digits, currency);
}

/** A value that `+` can join to text, as text; null for what has none. */
function joinable(value: Value): string | null {
  if (typeof value === 'string') return value;
  if (typeof value === 'number' || typeof value === 'boolean') return String(value);
  if (value instanceof Day) return value.iso;
  return null;
}

export function add(a: Value, b: Value, printer: Meter & { print(value: Value): string }): Value {
  if (typeof a === 'number' && typeof b === 'number') return sum(a, b);
  if (typeof a === 'string' || typeof b === 'string') {
    if (a === null || a === undefined || b === null || b === undefined) return null;
    const printed = a instanceof Html || b instanceof Html || a instanceof Money || b instanceof Money;
    const left = printed ? printer.print(a) : joinable(a);
    const right = printed ? printer.print(b) : joinable(b);
    if (left === null || right === null) return null;
    printer.charge(left.length + right.length);
    return left + right;
  }
  if (Array.isArray(a) && Array.isArray(b)) {
    printer.charge(a.length + b.length);
    return [...a, ...b];
  }
  if (a instanceof Money && b instanceof Money)
    return a.currency === b.currency ? money(a.amount + b.amount, a.currency) : null;
  if (a instanceof Day && typeof b === 'number') return dayOf(a.number + b);
  if (typeof a === 'number' && b instanceof Day) return dayOf(a + b.number);
  return null;
}

export function subtract(a: Value, b: Value): Value {
  if (typeof a === 'number' && typeof b === 'number') return sum(a, -b);
  if (a instanceof Money && b instanceof Money)
    return a.currency === b.currency ? money(a.amount - b.amount, a.currency) : null;
  if (a instanceof Day && typeof b === 'number') return dayOf(a.number - b);
  if (a instanceof Day && b instanceof Day) return a.number - b.number;
  return null;
}

export function multiply(a: Value, b: Value): Value {
  if (typeof a === 'number' && typeof b === 'number') return decimal(a * b);
  if (a instanceof Money && typeof b === 'number') return money(a.amount * b, a.currency);
  if (typeof a === 'number' && b instanceof Money) return money(b.amount * a, b.currency);
  return null;
}

export function divide(a: Value, b: Value): Value {
  if (typeof a === 'number' && typeof b === 'number') return b === 0 ? null : quotient(a, b);
  if (a instanceof Money && typeof b === 'number') return b === 0 ? null : money(a.amount / b, a.currency);
  if (a instanceof Money && b instanceof Money)
    return a.currency !== b.currency || b.amount === 0 ? null : decimal(a.amount / b.amount);
  return null;
}

export function remainder(a: Value, b: Value): Value {
  return typeof a === 'number' && typeof b === 'number' && b !== 0 ? rest(a, b) : null;
}

export function negate(a: Value): Value {
  if (typeof a === 'number') return -a || 0;
  return a instanceof Money ? new Money(-a.amount || 0, a.currency) : null;
}

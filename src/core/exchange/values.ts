import { minorDigits } from '@/core/language';

/** What stands between a number's units and its decimals. */
export type DecimalMark = '.' | ',';

/** Spaces that group digits, the narrow and the fixed one among them, and the apostrophe that Swiss texts use. */
const grouping = /[\s\u00a0\u202f'’]/g;

/** Highest price that is taken, in the currency's units: what is above is a slip. */
const maxUnits = 100_000_000;

/**
 * The decimal mark that a column of numbers uses, by those that can only be read in one way (`12,50`, `1.234,5`); `usual` where
 * none can.
 */
export function decimalMarkOf(values: Iterable<string>, usual: DecimalMark): DecimalMark {
  let [points, commas] = [0, 0];
  for (const value of values) {
    const digits = value.replace(/[^\d.,]/g, '');
    const last = digits.match(/[.,](?=[^.,]*$)/)?.[0];
    if (!last) continue;
    const decimals = digits.length - digits.lastIndexOf(last) - 1;
    const other = last === ',' ? '.' : ',';
    const certain = digits.includes(other) || (digits.split(last).length === 2 && decimals !== 3);
    // One mark several times groups digits: the other is the decimal one.
    const mark = digits.split(last).length > 2 ? other : certain ? last : null;
    if (mark === '.') points++;
    if (mark === ',') commas++;
  }
  return points === commas ? usual : points > commas ? '.' : ',';
}

/** A number as people write it, its digits grouped or not; null for what is none. */
export function readNumber(text: string, mark: DecimalMark): number | null {
  const group = mark === ',' ? '.' : ',';
  const plain = text.trim().replace(grouping, '');
  const pattern = new RegExp(`^[+-]?(?:\\d+|\\d{1,3}(?:\\${group}\\d{3})+)(?:\\${mark}\\d+)?$`);
  if (!pattern.test(plain)) return null;
  return Number(plain.replaceAll(group, '').replace(mark, '.'));
}

/**
 * A price in the currency's minor units (ISO 4217). A currency's sign or code may stand before or after it.
 *
 * @returns the price, or why it is none
 */
export function readPrice(text: string, currency: string, mark: DecimalMark): { minor: number } | { wrong: string } {
  const other = text.match(/[A-Z]{3}/)?.[0];
  if (other !== undefined && other !== currency)
    return { wrong: `“${text}” is in ${other}; the shop’s currency is ${currency}` };
  const bare = text
    .replace(currency, '')
    .replace(/[\p{Sc}]/gu, '')
    .trim();
  const amount = readNumber(bare.replace(/[.,]-+$/, ''), mark);
  if (amount === null) {
    const other = mark === ',' ? '.' : ',';
    const swapped = readNumber(bare, other) !== null && bare.includes(other);
    return {
      wrong: swapped
        ? `“${text}” has its decimals after “${other}”; the file’s prices have them after “${mark}”`
        : `“${text}” is not a price`,
    };
  }
  if (amount < 0) return { wrong: `“${text}” is below nothing: a price is 0 or more` };
  if (amount > maxUnits)
    return { wrong: `“${text}” is too high for a price: at most ${maxUnits.toLocaleString('en')}` };
  const digits = minorDigits(currency);
  const decimals = bare.split(mark)[1]?.replace(/\D/g, '').replace(/0+$/, '').length ?? 0;
  if (bare.includes(mark) && decimals > digits)
    return { wrong: `“${text}” has ${decimals} decimals; ${currency} has ${digits || 'none'}` };
  return { minor: Math.round(amount * 10 ** digits) };
}

const yes = new Set(
  'yes y true 1 x ja j wahr oui o vrai si sí sì s verdadero vero sim да tak ano igen kyllä はい 是'.split(' '),
);
const no = new Set('no n false 0 - nein falsch non faux falso não nao нет nie ne nem ei いいえ 否'.split(' '));

/** A yes or no as people write it; null for what is neither. */
export function readFlag(text: string): boolean | null {
  const word = text.trim().toLowerCase();
  if (yes.has(word)) return true;
  return no.has(word) ? false : null;
}

/** The parts of a list: between `|`, else between line breaks, else between `;`, else between commas. */
export function readList(text: string): string[] {
  const between = ['|', '\n', ';', ','].find((one) => text.includes(one)) ?? '|';
  return [...new Set(text.split(between).map((part) => part.trim()))].filter(Boolean);
}

/** A day as ISO 8601 writes it, of what is written year first or with points or slashes day first (`31.12.2026`); null for what is none. */
export function readDay(text: string): string | null {
  const [, year, month, day] =
    /^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ].*)?$/.exec(text.trim()) ??
    (([, d, m, y]) => ['', y, m, d])(/^(\d{1,2})[./](\d{1,2})[./](\d{4})$/.exec(text.trim()) ?? []);
  if (!year || !month || !day) return null;
  const iso = `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
  const read = new Date(`${iso}T00:00:00Z`);
  return !Number.isNaN(read.getTime()) && read.toISOString().startsWith(iso) ? iso : null;
}

/** Whether digits are a GTIN: its last one is the check digit (GS1 General Specifications, 7.9). */
export function isGtin(text: string): boolean {
  if (!/^(?:\d{8}|\d{12,14})$/.test(text)) return false;
  const digits = [...text].reverse().map(Number);
  return digits.reduce((sum, digit, at) => sum + digit * (at % 2 ? 3 : 1), 0) % 10 === 0;
}

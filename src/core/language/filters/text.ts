import { plainText } from '../values/plain';
import { toJson } from '../values/json';
import { workOn } from '../values/meter';
import { cutAt } from '../values/search';
import { Html, type Value } from '../values/values';
import type { Filter, FilterContext } from './filter';

/** Text to work on: Html as plain text, a number or flag as its digits; null for what has none. */
function textOf(context: FilterContext, value: Value): string | null {
  if (typeof value === 'string') return value;
  if (value === null || value === undefined) return null;
  if (value instanceof Html) return value.plain(plainText);
  if (typeof value === 'object' && Array.isArray(value)) return context.print(value);
  return context.print(value) || null;
}

const onText =
  (change: (text: string, context: FilterContext, ...args: Value[]) => Value): Filter['run'] =>
  (context, value, ...args) => {
    const text = textOf(context, value);
    if (text === null) return null;
    context.charge(text.length);
    return change(text, context, ...args);
  };

const segmenters = new Map<string, Intl.Segmenter>();
/** Below the combining marks each character is a sign of its own, line ends aside. */
const plainSigns = /^[\x20-\u02ff]*$/;

/** The characters of a text as people count them, at most so many. Each costs far more than a step elsewhere. */
function graphemes(context: FilterContext, text: string, most = Infinity): string[] {
  context.charge(Math.min(text.length, most));
  if (plainSigns.test(text)) return text.slice(0, most).split('');
  const { locale } = context.format;
  let segmenter = segmenters.get(locale);
  if (!segmenter) segmenters.set(locale, (segmenter = new Intl.Segmenter(locale, { granularity: 'grapheme' })));
  const signs: string[] = [];
  for (const { segment } of segmenter.segment(text)) {
    if (signs.length >= most) break;
    context.work(1);
    signs.push(segment);
  }
  return signs;
}

/** How many characters a reader would count. */
export function countCharacters(context: FilterContext, text: string): number {
  workOn(text, context);
  return plainSigns.test(text) ? text.length : graphemes(context, text).length;
}

/** Cuts at `most` user-perceived characters, back to the end of a word, without punctuation before the tail. */
function shorten(context: FilterContext, text: string, most: number, tail: string): string {
  // No sign is shorter than a code unit.
  if (text.length <= most) return text;
  let end = Math.max(0, Math.trunc(most));
  const signs = graphemes(context, text, end + 1);
  if (signs.length <= most) return text;
  const wordy = (sign: string | undefined) => sign !== undefined && /[\p{L}\p{N}\p{M}_]/u.test(sign);
  if (wordy(signs[end]) && wordy(signs[end - 1])) {
    let back = end;
    while (back > 0 && wordy(signs[back - 1])) back--;
    if (back > 0) end = back;
  }
  while (end > 0 && /^[\s\p{P}]+$/u.test(signs[end - 1] as string)) end--;
  context.charge(end + tail.length);
  return signs.slice(0, end).join('') + tail;
}

/** A text cut at every place where it holds a pattern, each piece charged for. */
function pieces(context: FilterContext, text: string, pattern: string): string[] {
  context.work(Math.ceil(text.length / (4 * pattern.length)));
  return cutAt(text, pattern);
}

function slug(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .replace(/ß/g, 'ss')
    .replace(/[æÆ]/g, 'ae')
    .replace(/[øØ]/g, 'o')
    .replace(/['’]/g, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '');
}

export const textFilters: Record<string, Filter> = {
  upper: {
    signature: 'upper',
    says: 'in capitals, by the locale’s rules',
    run: onText((text, { format }) => text.toLocaleUpperCase(format.locale)),
  },
  lower: {
    signature: 'lower',
    says: 'in small letters, by the locale’s rules',
    run: onText((text, { format }) => text.toLocaleLowerCase(format.locale)),
  },
  trim: { signature: 'trim', says: 'without white space at either end', run: onText((text) => text.trim()) },
  plain: {
    signature: 'plain',
    says: 'tags out, entities decoded, a block’s end as a space, white space folded',
    run: (context, value) => {
      if (value instanceof Html) context.charge(value.markup.length);
      if (value instanceof Html) return value.plain(plainText);
      const text = textOf(context, value);
      if (text === null) return null;
      context.charge(text.length);
      return plainText(text);
    },
  },
  shorten: {
    signature: "shorten(n, tail='…')",
    says: 'at most n characters as people count them, cut at a word',
    run: onText((text, context, most, tail) =>
      typeof most === 'number' ? shorten(context, text, most, typeof tail === 'string' ? tail : '…') : text,
    ),
  },
  replace: {
    signature: 'replace(a, b)',
    says: 'every a becomes b',
    run: onText((text, context, a, b) => {
      if (typeof a !== 'string' || a === '') return text;
      const by = typeof b === 'string' ? b : context.print(b ?? null);
      const parts = pieces(context, text, a);
      context.charge(text.length + parts.length * by.length);
      return parts.join(by);
    }),
  },
  split: {
    signature: 'split(s)',
    says: 'a list, cut at every s',
    run: onText((text, context, by) =>
      typeof by === 'string' && by !== '' ? pieces(context, text, by) : graphemes(context, text),
    ),
  },
  slug: {
    signature: 'slug',
    says: 'as in an address: small letters, digits and hyphens',
    run: onText((text) => slug(text)),
  },
  to_number: {
    signature: 'to_number',
    says: 'the number that the text writes; none when it writes none',
    run: (_, value) => {
      if (typeof value === 'number') return value;
      return typeof value === 'string' && /^\s*-?\d+(?:\.\d+)?\s*$/.test(value) ? Number(value) : null;
    },
  },
  json: {
    signature: 'json',
    says: 'as JSON, for a data attribute',
    run: (context, value) => {
      const text = toJson(value, context);
      context.charge(text.length);
      return text;
    },
  },
};

import { plainText } from '../values/plain';
import { toJson } from '../values/json';
import { Html, type Value } from '../values/values';
import type { Filter, FilterContext } from './table';

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
function graphemes(text: string, locale: string): string[] {
  // Below the combining marks each character is a sign of its own, line ends aside.
  if (/^[\x20-\u02ff]*$/.test(text)) return text.split('');
  let segmenter = segmenters.get(locale);
  if (!segmenter) segmenters.set(locale, (segmenter = new Intl.Segmenter(locale, { granularity: 'grapheme' })));
  return Array.from(segmenter.segment(text), ({ segment }) => segment);
}

/** Cuts at `most` user-perceived characters, back to the end of a word, without punctuation before the tail. */
function shorten(text: string, locale: string, most: number, tail: string): string {
  // No sign is shorter than a code unit.
  if (text.length <= most) return text;
  const signs = graphemes(text, locale);
  if (signs.length <= most) return text;
  const wordy = (sign: string | undefined) => sign !== undefined && /[\p{L}\p{N}\p{M}_]/u.test(sign);
  let end = Math.max(0, Math.trunc(most));
  if (wordy(signs[end]) && wordy(signs[end - 1])) {
    let back = end;
    while (back > 0 && wordy(signs[back - 1])) back--;
    if (back > 0) end = back;
  }
  return (
    signs
      .slice(0, end)
      .join('')
      .replace(/[\s\p{P}]+$/u, '') + tail
  );
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
      if (value instanceof Html) return value.plain(plainText);
      const text = textOf(context, value);
      return text === null ? null : plainText(text);
    },
  },
  shorten: {
    signature: "shorten(n, tail='…')",
    says: 'at most n characters as people count them, cut at a word',
    run: onText((text, { format }, most, tail) =>
      typeof most === 'number' ? shorten(text, format.locale, most, typeof tail === 'string' ? tail : '…') : text,
    ),
  },
  replace: {
    signature: 'replace(a, b)',
    says: 'every a becomes b',
    run: onText((text, context, a, b) => {
      if (typeof a !== 'string' || a === '') return text;
      const by = typeof b === 'string' ? b : context.print(b ?? null);
      const parts = text.split(a);
      context.charge(text.length + parts.length * by.length);
      return parts.join(by);
    }),
  },
  split: {
    signature: 'split(s)',
    says: 'a list, cut at every s',
    run: onText((text, context, by) =>
      typeof by === 'string' && by !== '' ? text.split(by) : graphemes(text, context.format.locale),
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
      const text = toJson(value);
      context.charge(text.length);
      return text;
    },
  },
};

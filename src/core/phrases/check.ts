import { nearestOf } from '@/core/language';
import type { Phrase } from '@/core/theme';
import { formsOf } from './forms';

/** The places of a text that values are put into: `name` of `{name}`. */
export const placesOf = (text: string): string[] => [
  ...new Set([...text.matchAll(/\{([A-Za-z_]\w*)\}/g)].map(([, name = '']) => name)),
];

export const textsOf = (phrase: Phrase | null): string[] =>
  phrase === null ? [] : typeof phrase === 'string' ? [phrase] : Object.values(phrase);

export const isSame = (a: Phrase | null, b: Phrase | null): boolean =>
  a === b ||
  (a !== null && b !== null && typeof a === 'object' && typeof b === 'object'
    ? Object.keys(a).length === Object.keys(b).length && Object.entries(a).every(([form, text]) => b[form] === text)
    : false);

/** What is wrong with a text of a phrase, in a sentence; `form` is its plural form, '' where it has none. */
export function textProblem(
  { places, first }: { places: readonly string[]; first: Phrase | null },
  locale: string,
  form: string,
  text: string,
): { text: string; severity: 'error' | 'warning' } | null {
  const forms = formsOf(locale);
  if (form && !forms.known.includes(form))
    return {
      severity: 'error',
      text: `This language has no form “${form}”: it has ${forms.known.map((one) => `“${one}”`).join(', ')}`,
    };
  const written = placesOf(text);
  const unknown = written.find((name) => !places.includes(name));
  if (unknown !== undefined) {
    const near = nearestOf(unknown, places);
    const meant = near ? `; did you mean “{${near.name}}”?` : '';
    return { severity: 'error', text: `Nothing fills “{${unknown}}” in this phrase${meant}` };
  }
  // “One left” need not say the number, where it can be no other.
  const silent = form && form !== 'other';
  const expected = new Set(textsOf(first).flatMap(placesOf));
  const left = [...expected].find((name) => !written.includes(name) && !(silent && name === 'count'));
  return left === undefined ? null : { severity: 'warning', text: `“{${left}}” is not in the text` };
}

/** Plural forms that a phrase of a language lacks; none for a phrase without forms. */
export const formsMissing = (locale: string, phrase: Phrase | null): string[] =>
  phrase === null || typeof phrase === 'string'
    ? []
    : formsOf(locale).needed.filter((form) => !Object.hasOwn(phrase, form));

import type { PhraseItem } from '@/contract/phrases';

/** Which phrases are listed; `missing fr` and the like narrow to a language. */
export interface Filter {
  words: string;
  show: 'all' | 'missing' | 'unused' | 'own' | 'typed';
  /** Language that `missing` looks at; null: any. */
  locale: string | null;
  /** Layer that some text is from; null: any. */
  layer: string | null;
}

const textOf = (phrase: PhraseItem['first']): string =>
  phrase === null ? '' : typeof phrase === 'string' ? phrase : Object.values(phrase).join(' ');

/** Whether a phrase lacks a text, or one of the forms for numbers, in a language. */
export const isMissing = ({ phrase, lacks }: PhraseItem['texts'][number]): boolean =>
  phrase === null || lacks.length > 0;

/** The phrases that a filter leaves, in their order. */
export function filtered(
  rows: readonly PhraseItem[],
  locales: readonly string[],
  filter: Filter,
  isTyped: (key: string) => boolean,
): PhraseItem[] {
  const words = filter.words.toLowerCase().split(/\s+/).filter(Boolean);
  const at = filter.locale === null ? -1 : locales.indexOf(filter.locale);
  const shows: Record<Filter['show'], (row: PhraseItem) => boolean> = {
    all: () => true,
    missing: ({ texts }) => (at < 0 ? texts.some(isMissing) : texts.slice(at, at + 1).some(isMissing)),
    unused: ({ uses }) => uses === 0,
    own: ({ texts }) => texts.some(({ own }) => own),
    typed: ({ key }) => isTyped(key),
  };
  return rows.filter((row) => {
    if (!shows[filter.show](row)) return false;
    if (filter.layer !== null && !row.texts.some(({ layer }) => layer === filter.layer)) return false;
    if (!words.length) return true;
    const all = [row.key, ...row.texts.map(({ phrase }) => textOf(phrase)), textOf(row.first)].join(' ').toLowerCase();
    return words.every((word) => all.includes(word));
  });
}

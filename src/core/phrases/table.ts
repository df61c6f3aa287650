import { readWords, unmarked, valuesGiven, type Phrase, type Theme, type Words } from '@/core/theme';
import { formsMissing, placesOf, textsOf } from './check';
import { phraseUses } from './uses';

/** A phrase in one language. */
export interface PhraseText {
  /** As it shows; null: this language has none, and the theme's first one stands in. */
  phrase: Phrase | null;
  /** The topmost layer that has it; '' where none has. */
  layer: string;
  /** The shop's own words have it. */
  own: boolean;
  /** Plural forms that the language needs and the phrase has not. */
  lacks: string[];
}

export interface PhraseRow {
  key: string;
  /** What stands in where a language has none. */
  first: Phrase | null;
  /** Values that may be put into it. */
  places: string[];
  /** By language, in the order asked for. */
  texts: PhraseText[];
  /** How often templates and shelves name it; 0: nothing does. */
  uses: number;
}

export const languageOf = (locale: string): string => locale.split('-')[0] as string;

/** The files of words that a locale is read from, the later over the earlier. */
export const filesOf = (locale: string): string[] =>
  [...new Set([languageOf(locale), locale])].map((name) => `words/${name}.json`);

/** The words of a file; none where it cannot be read. */
export function wordsIn(text: string | null): Words {
  try {
    return readWords(unmarked(text ?? '{}'));
  } catch {
    return new Map();
  }
}

/** All phrases of a theme by key, in each of these languages, with the layer that each text is from. */
export function phraseTable(theme: Theme, locales: readonly string[]): PhraseRow[] {
  const byLocale = locales.map((locale) => {
    const texts = new Map<string, PhraseText>();
    for (const path of filesOf(locale))
      for (const { text, layer } of theme.everywhere(path))
        for (const [key, phrase] of wordsIn(text)) {
          const own = layer.kind === 'shop' || (texts.get(key)?.own ?? false);
          texts.set(key, { phrase, layer: layer.name, own, lacks: formsMissing(locale, phrase) });
        }
    return texts;
  });
  const keys = new Set([...theme.phraseKeys(), ...byLocale.flatMap((texts) => [...texts.keys()])]);
  const uses = phraseUses(theme);
  const given = valuesGiven(theme);
  return [...keys].sort().map((key) => {
    const texts = byLocale.map((found) => found.get(key) ?? { phrase: null, layer: '', own: false, lacks: [] });
    const first = theme.firstPhrase(key) ?? texts.find(({ phrase }) => phrase !== null)?.phrase ?? null;
    return {
      key,
      first,
      places: [
        ...new Set([...[first, theme.phrase(key)].flatMap(textsOf).flatMap(placesOf), ...(given.get(key) ?? [])]),
      ].filter(Boolean),
      texts,
      uses: uses(key),
    };
  });
}

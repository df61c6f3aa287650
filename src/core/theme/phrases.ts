import { phraseNow } from '@/core/language';
import { readAbout } from './about';
import { unmarked } from './mark';
import { readWords, type Phrase, type Words } from './words';

/** What phrases ask of a layer: the texts of its files, by path. */
interface LayerTexts {
  files: ReadonlyMap<string, { text: string | null }>;
}

const found = (words: Words, key: string): Phrase | null => words.get(key) ?? words.get(phraseNow(key)) ?? null;

const fileOf = (locale: string): string => `words/${locale}.json`;

/** The phrases of a layer's file; none where it has no such file, or one that cannot be read: saving that is refused with the reason. */
function wordsIn({ files }: LayerTexts, path: string): Words {
  try {
    return readWords(unmarked(files.get(path)?.text ?? ''));
  } catch {
    return new Map();
  }
}

/** The file of a layer's first language: the one that its `about.json` names, else English, else the first that it has. */
function firstFile({ files }: LayerTexts): string | null {
  const { language } = readAbout(files.get('about.json')?.text ?? null);
  const all = [...files.keys()].filter((path) => path.startsWith('words/')).sort();
  return [fileOf(language), fileOf('en'), ...all].find((path) => files.has(path)) ?? null;
}

/** The phrases of a stack of layers, lowest first. Upper layers add to and replace lower ones' phrases. */
export class Phrases {
  readonly #layers: readonly LayerTexts[];
  readonly #byLocale = new Map<string, Words>();
  #first: Words | null = null;

  constructor(layers: readonly LayerTexts[]) {
    this.#layers = layers;
  }

  /** A phrase in a locale (`en-GB`), then in its language (`en`); null where it has none. */
  in(locale: string, key: string): Phrase | null {
    return found(this.#of(locale), key);
  }

  /** A phrase in the first language of the topmost layer that has it there; null where none has. */
  first(key: string): Phrase | null {
    return found(this.#firsts(), key);
  }

  /** Keys of all phrases that there are for a locale. */
  keys(locale: string): Set<string> {
    return new Set([...this.#of(locale).keys(), ...this.#firsts().keys()]);
  }

  /** Phrases of a locale over those of its language. */
  #of(locale: string): Words {
    let words = this.#byLocale.get(locale);
    if (!words) {
      const files = [...new Set([locale.split('-')[0] as string, locale])].map(fileOf);
      words = new Map(files.flatMap((path) => this.#layers.flatMap((layer) => [...wordsIn(layer, path)])));
      this.#byLocale.set(locale, words);
    }
    return words;
  }

  #firsts(): Words {
    return (this.#first ??= new Map(
      this.#layers.flatMap((layer) => {
        const path = firstFile(layer);
        return path === null ? [] : [...wordsIn(layer, path)];
      }),
    ));
  }
}

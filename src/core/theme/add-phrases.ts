import { applyEdits, findNodeAtLocation, modify, parseTree, type ParseError } from 'jsonc-parser';

import { readWords, type Phrase, type Words } from './words';

/** What writing phrases asks of a theme. */
interface Worded {
  layers: readonly { files: ReadonlyMap<string, { text: string | null }> }[];
  phraseIn(locale: string, key: string): unknown;
}

const formattingOptions = { insertSpaces: true, tabSize: 2, eol: '\n' };

/**
 * The topmost layer's files of words with further phrases, in each language that lacks them; files that it has not are begun. A file that cannot be
 * read is left alone.
 */
export function withPhrases(
  theme: Worded,
  locales: readonly string[],
  phrases: readonly { key: string; text: string }[],
): { path: string; text: string }[] {
  const files = theme.layers[theme.layers.length - 1]?.files ?? new Map<string, { text: string | null }>();
  const made = new Map<string, string>();
  for (const locale of locales) {
    const language = `words/${locale.split('-')[0]}.json`;
    const path = files.has(`words/${locale}.json`) ? `words/${locale}.json` : language;
    const before = made.get(path) ?? files.get(path)?.text ?? '{}\n';
    const text = phrases.reduce(
      (all, { key, text }) => (theme.phraseIn(locale, key) === null ? withPhrase(all, key, text) : all),
      before,
    );
    if (text !== (files.get(path)?.text ?? null) && text !== '{}\n') made.set(path, text);
  }
  return [...made].map(([path, text]) => ({ path, text }));
}

/** A phrase as it stands for one file of words: `layer` is the topmost that has it there, '' where none has. */
export interface WordRow {
  key: string;
  phrase: Phrase;
  layer: string;
  own: boolean;
}

/**
 * The phrases of a file of words as all layers have them together, by key; those too that the theme has in its first language alone, with the text of
 * that.
 */
export function wordsOf(
  theme: Worded & {
    everywhere(path: string): { text: string | null; layer: { name: string; kind: string } }[];
    phraseKeys(): Iterable<string>;
    firstPhrase(key: string): Phrase | null;
  },
  path: string,
): WordRow[] {
  const rows = new Map<string, WordRow>();
  for (const key of theme.phraseKeys()) {
    const phrase = theme.firstPhrase(key);
    if (phrase !== null) rows.set(key, { key, phrase, layer: '', own: false });
  }
  for (const { text, layer } of theme.everywhere(path)) {
    let words: Words;
    try {
      words = readWords(text ?? '{}');
    } catch {
      continue;
    }
    for (const [key, phrase] of words) rows.set(key, { key, phrase, layer: layer.name, own: layer.kind === 'shop' });
  }
  return [...rows.values()].sort((a, b) => (a.key < b.key ? -1 : 1));
}

/** A file of words with a phrase of that key; the same where the file cannot be read. */
export function withPhrase(file: string, key: string, text: Phrase): string {
  const errors: ParseError[] = [];
  const root = parseTree(file, errors);
  if (errors.length || root?.type !== 'object') return file;
  const steps = key.split('.');
  // Where a phrase stands in the place of a group, the whole key is written as one name.
  const grouped = steps.slice(0, -1).every((_, at) => {
    const node = findNodeAtLocation(root, steps.slice(0, at + 1));
    return !node || node.type === 'object';
  });
  return applyEdits(file, modify(file, grouped ? steps : [key], text, { formattingOptions }));
}

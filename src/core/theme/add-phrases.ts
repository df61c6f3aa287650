import { applyEdits, findNodeAtLocation, modify, parseTree } from 'jsonc-parser';

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

function withPhrase(file: string, key: string, text: string): string {
  const root = parseTree(file);
  if (root?.type !== 'object') return file;
  const steps = key.split('.');
  // Where a phrase stands in the place of a group, the whole key is written as one name.
  const grouped = steps.slice(0, -1).every((_, at) => {
    const node = findNodeAtLocation(root, steps.slice(0, at + 1));
    return !node || node.type === 'object';
  });
  return applyEdits(file, modify(file, grouped ? steps : [key], text, { formattingOptions }));
}

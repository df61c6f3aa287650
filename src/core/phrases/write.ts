import { applyEdits, modify, parseTree, type Node } from 'jsonc-parser';
import { phraseNow } from '@/core/language';
import { withPhrase, type Phrase, type Theme } from '@/core/theme';
import { isSame } from './check';
import { filesOf, languageOf, wordsIn } from './table';

/** A phrase as it is to be in a language; null: the shop's own goes, and what is below shows again. */
export interface PhraseEdit {
  key: string;
  locale: string;
  phrase: Phrase | null;
  /** The phrase as it showed when it was changed: where it is another by now, the edit is left out. */
  seen: Phrase | null;
}

export interface PhrasePlan {
  /** Files of the shop's words; null: nothing is left in it. */
  files: { path: string; text: string | null }[];
  /** Edits that were left out: someone else changed the phrase since. */
  late: (PhraseEdit & { now: Phrase | null })[];
  /** Files that cannot be read, and are left as they are. */
  unreadable: string[];
}

const formattingOptions = { insertSpaces: true, tabSize: 2, eol: '\n' };

/** The file that a language's phrases are written into: its own where there is one, or where several of the shop share the language. */
function targetOf(theme: Theme, locales: readonly string[], locale: string): string {
  const exact = `words/${locale}.json`;
  const shared = locales.filter((one) => languageOf(one) === languageOf(locale)).length > 1;
  return shared || theme.everywhere(exact).length ? exact : `words/${languageOf(locale)}.json`;
}

/** What the shop's files of words become by these edits. Only what differs from the layers below is written. */
export function planPhrases(theme: Theme, locales: readonly string[], edits: readonly PhraseEdit[]): PhrasePlan {
  const own = theme.layers.at(-1)?.kind === 'shop' ? theme.layers.at(-1)?.files : undefined;
  const before = (path: string): string | null => own?.get(path)?.text ?? null;
  const made = new Map<string, string>();
  const late: PhrasePlan['late'] = [];
  const unreadable = new Set<string>();
  const textOf = (path: string) => made.get(path) ?? before(path) ?? '{}\n';
  const shown = new Map<string, ReturnType<typeof wordsIn>>();
  const below = new Map<string, ReturnType<typeof wordsIn>>();
  for (const locale of new Set(edits.map((one) => one.locale))) {
    const files = filesOf(locale).flatMap((path) => theme.everywhere(path));
    shown.set(locale, new Map(files.flatMap(({ text }) => [...wordsIn(text)])));
    below.set(
      locale,
      new Map(files.filter(({ layer }) => layer.kind !== 'shop').flatMap(({ text }) => [...wordsIn(text)])),
    );
  }
  for (const edit of edits) {
    const { key, locale, phrase, seen } = edit;
    const now = shown.get(locale)?.get(key) ?? null;
    if (isSame(now, phrase)) continue;
    if (!isSame(now, seen)) {
      late.push({ ...edit, now });
      continue;
    }
    const broken = filesOf(locale).find((path) => !readable(textOf(path)));
    if (broken !== undefined) {
      unreadable.add(broken);
      continue;
    }
    const kept = phrase === null || isSame(phrase, below.get(locale)?.get(key) ?? null) ? null : phrase;
    const target = targetOf(theme, locales, locale);
    for (const path of filesOf(locale))
      if ((before(path) !== null || made.has(path)) && (path !== target || kept === null))
        made.set(path, withoutPhrase(textOf(path), key));
    if (kept !== null) made.set(target, replaced(textOf(target), key, kept));
  }
  const files = [...made].flatMap(([path, text]) => {
    const left = isEmpty(text) ? null : text;
    return left === before(path) ? [] : [{ path, text: left }];
  });
  return { files, late, unreadable: [...unreadable] };
}

const readable = (text: string): boolean => {
  try {
    const read: unknown = JSON.parse(text);
    return typeof read === 'object' && read !== null && !Array.isArray(read);
  } catch {
    return false;
  }
};

const isEmpty = (text: string): boolean => /^\s*\{\s*\}\s*$/.test(text);

/** A file of words without a phrase, under whichever of its names; groups that it leaves empty go with it. */
function withoutPhrase(file: string, key: string): string {
  let text = file;
  for (let found = pathOf(text, key); found; found = pathOf(text, key)) {
    let path = found;
    // What would stay as an empty group goes too.
    for (let group = path.slice(0, -1); group.length && membersOf(text, group) === 1; group = group.slice(0, -1))
      path = group;
    text = applyEdits(text, modify(text, path, undefined, { formattingOptions }));
  }
  return text;
}

/** A file of words with this phrase: where the file has it, else at the end of its group. */
function replaced(file: string, key: string, phrase: Phrase): string {
  const path = pathOf(file, key);
  const text = path
    ? applyEdits(file, modify(file, path, phrase, { formattingOptions }))
    : withPhrase(file, key, phrase);
  return isSame(wordsIn(text).get(key) ?? null, phrase) ? text : withPhrase(withoutPhrase(file, key), key, phrase);
}

function pathOf(text: string, key: string): string[] | null {
  const walk = (node: Node | undefined, path: string[]): string[] | null => {
    for (const { children } of node?.children ?? []) {
      const [name, value] = children ?? [];
      if (!name || !value) continue;
      const here = [...path, String(name.value)];
      if (phraseNow(here.join('.')) === key && holdsPhrase(value)) return here;
      const inner = value.type === 'object' ? walk(value, here) : null;
      if (inner) return inner;
    }
    return null;
  };
  return walk(parseTree(text), []);
}

/** Whether a node is a phrase itself, not a group of phrases. */
const holdsPhrase = (node: Node): boolean =>
  node.type === 'string' ||
  (node.type === 'object' && (node.children ?? []).every(({ children }) => children?.[1]?.type === 'string'));

function membersOf(text: string, path: readonly string[]): number {
  let node = parseTree(text);
  for (const name of path) node = node?.children?.find(({ children }) => children?.[0]?.value === name)?.children?.[1];
  return node?.children?.length ?? 0;
}

import { pieceLabel, saidIn, type ShelfEntry, type Theme } from '@/core/theme';
import { phraseTable } from '@/core/phrases';

/** Something that differs between two states of a shop's content: a piece on a shelf, a phrase, or a file that is neither. */
export interface ContentChange {
  kind: 'piece' | 'phrase' | 'file';
  /** The label of the piece, the key of the phrase, the path of the file. */
  name: string;
  change: 'added' | 'changed' | 'removed';
}

/** Whether a file holds content alone: what stands on shelves, or words. */
export const isContent = (path: string): boolean => path === 'shelves.json' || /^words\/[^/]+\.json$/.test(path);

/** What differs from one theme to another: pieces in the order of the shelves, phrases by key, then files that are not content. `languages`: the best first. */
export function contentChanges(from: Theme, to: Theme, languages: readonly string[]): ContentChange[] {
  const changed = [...new Set([...from.paths(), ...to.paths()])]
    .sort()
    .filter((path) => from.file(path)?.hash !== to.file(path)?.hash);
  const pieces = changed.includes('shelves.json') ? pieceChanges(from, to, languages) : [];
  const phrases = changed.some((path) => path.startsWith('words/')) ? phraseChanges(from, to, languages) : [];
  const files = changed
    .filter((path) => !isContent(path))
    .map((path): ContentChange => ({ kind: 'file', name: path, change: changeOf(from.file(path), to.file(path)) }));
  return [...pieces, ...phrases, ...files];
}

const changeOf = (was: unknown, now: unknown): ContentChange['change'] =>
  was === null || was === undefined ? 'added' : now === null || now === undefined ? 'removed' : 'changed';

/** Differences of two tables, by key: each with the value that is left of it. */
function differing<Value>(
  was: ReadonlyMap<string, Value>,
  now: ReadonlyMap<string, Value>,
): [string, Value, ContentChange['change']][] {
  return [...new Set([...now.keys(), ...was.keys()])].flatMap((key): [string, Value, ContentChange['change']][] => {
    const [before, after] = [was.get(key), now.get(key)];
    if (JSON.stringify(before) === JSON.stringify(after)) return [];
    return [[key, (after ?? before) as Value, changeOf(before, after)]];
  });
}

function pieceChanges(from: Theme, to: Theme, languages: readonly string[]): ContentChange[] {
  const entries = ({ shelves }: Theme): Map<string, ShelfEntry> =>
    new Map(shelves.map((one, at) => [one.id ?? `${one.shelf} ${one.piece} ${at}`, one]));
  return differing(entries(from), entries(to)).map(([, { piece }, change]) => {
    const label = pieceLabel(piece, (change === 'removed' ? from : to).template(piece));
    return { kind: 'piece', name: saidIn(label, languages, to) || label, change };
  });
}

function phraseChanges(from: Theme, to: Theme, languages: readonly string[]): ContentChange[] {
  const texts = (theme: Theme): Map<string, unknown> =>
    new Map(
      phraseTable(theme, languages).map(({ key, first, texts: of }) => [key, [first, of.map(({ phrase }) => phrase)]]),
    );
  return differing(texts(from), texts(to)).map(([name, , change]) => ({ kind: 'phrase', name, change }));
}

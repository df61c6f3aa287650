import { merged } from './merge';
import { mergeShelves, noPlacements } from './shelves';

/** A file's content: its hash, and its text when it has one. */
export interface Content {
  hash: string;
  text: string | null;
}

/** What became of a file that two sides changed, each from what both had. */
export type MergedFile =
  /** Only this side changed it, or both did the same: it stays as it is. */
  | { kind: 'kept' }
  /** It is taken over as the other side has it; null: it is removed. */
  | { kind: 'taken'; content: Content | null }
  /** Both changed it, in different places: merged. */
  | { kind: 'merged'; text: string }
  /** Both changed the same: it stays as it is until someone has looked. */
  | { kind: 'conflict'; why: string };

const same = (a: Content | null, b: Content | null): boolean => (a?.hash ?? null) === (b?.hash ?? null);

/** Puts two sides of one file together, from what both had (null: no file). `mine` is the side that goes on. Placements are merged one by one, all else line by line. */
export function mergeFile(
  path: string,
  both: Content | null,
  mine: Content | null,
  theirs: Content | null,
): MergedFile {
  if (same(mine, theirs) || same(both, theirs)) return { kind: 'kept' };
  if (same(both, mine)) return { kind: 'taken', content: theirs };
  if (!mine) return { kind: 'conflict', why: 'removed here, changed there' };
  if (!theirs) return { kind: 'conflict', why: 'changed here, removed there' };
  if (mine.text === null || theirs.text === null || (both && both.text === null))
    return { kind: 'conflict', why: 'changed on both sides, and no text that could be merged' };
  const placed = path === 'shelves.json' ? mergeShelves(both ? both.text : noPlacements, mine.text, theirs.text) : null;
  if (placed?.both.length) return { kind: 'conflict', why: `${placed.both.join(', ')}: changed on both sides` };
  if (placed) return { kind: 'merged', text: placed.mine };
  const { text, overlaps } = merged(both?.text ?? '', mine.text, theirs.text);
  if (!both) return { kind: 'conflict', why: 'added on both sides, each otherwise' };
  if (overlaps)
    return { kind: 'conflict', why: `${overlaps} ${overlaps === 1 ? 'place' : 'places'} changed on both sides` };
  return text === mine.text ? { kind: 'kept' } : { kind: 'merged', text };
}

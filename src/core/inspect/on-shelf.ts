import type { PlaceTable } from './places';
import { placeAt, placeOfMark, readMark, rootsOf } from './trail';

/** A placement as the page shows it: its shelf, and the how-manieth it is of those that show there, from 0; -1: the shelf itself, with nothing on it. */
export interface OnShelf {
  shelf: string;
  at: number;
}

/** What each shelf of a page drew, in the order of the page: by the frame that it stands in and its place there. */
function shelvesOf(table: PlaceTable): Map<string, { shelf: string; frames: number[] }> {
  const shelves = new Map<string, { shelf: string; frames: number[] }>();
  table.madeAt.forEach((made, frame) => {
    const parent = table.parents[frame] ?? -1;
    const place = parent < 0 ? null : placeAt(table, parent, made);
    if (place?.kind !== 'shelf') return;
    const key = `${parent}.${made}`;
    const known = shelves.get(key);
    if (known) known.frames.push(frame);
    else shelves.set(key, { shelf: place.text, frames: [frame] });
  });
  return shelves;
}

/** The placement that a mark of the page is part of: the innermost, where one stands in another; null: of none. */
export function placementAt(table: PlaceTable, mark: string): OnShelf | null {
  const own = placeOfMark(table, mark);
  if (own?.kind === 'shelf') return { shelf: own.text, at: -1 };
  const shelves = shelvesOf(table);
  for (let frame = readMark(mark)?.frame ?? -1; frame >= 0; frame = table.parents[frame] ?? -1) {
    const found = shelves.get(`${table.parents[frame] ?? -1}.${table.madeAt[frame] ?? -1}`);
    if (found) return { shelf: found.shelf, at: found.frames.indexOf(frame) };
  }
  return null;
}

/** The marks of a shelf, wherever it stands on the page. */
export function marksOfShelf(table: PlaceTable, shelf: string): string[] {
  const marks: string[] = [];
  for (let at = 0; at < table.rendered.length; at += 2) {
    const [frame, place] = table.rendered.slice(at, at + 2) as [number, number];
    const found = placeAt(table, frame, place);
    if (found?.kind === 'shelf' && found.text === shelf) marks.push(`${frame}.${place}`);
  }
  return marks;
}

/** The marks of the outermost elements that a placement became, wherever its shelf stands on the page. */
export const marksOfPlacement = (table: PlaceTable, { shelf, at }: OnShelf): string[] =>
  [...shelvesOf(table).values()].flatMap((one) => {
    const frame = one.shelf === shelf ? one.frames[at] : undefined;
    if (frame === undefined) return [];
    return rootsOf(table, table.templateOf[frame] as number).map((root) => `${frame}.${root}`);
  });

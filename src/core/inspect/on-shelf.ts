import type { PlaceTable } from './places';
import { readMark, rootsOf } from './trail';

/** What of an arranged page something is part of: a placement by its id, or a shelf with nothing on it by its name. */
export type Arranged = { placement: string } | { shelf: string };

/** What a mark of the page is part of: the innermost, where one stands in another; null: no shelf has anything to do with it. */
export function arrangedAt(table: PlaceTable, mark: string): Arranged | null {
  const of = readMark(mark);
  if (!of) return null;
  const shelf = table.shelves.find(([frame, place]) => frame === of.frame && place === of.place);
  if (shelf) return { shelf: shelf[2] };
  const placed = new Map(table.placed);
  for (let frame = of.frame; frame >= 0; frame = table.parents[frame] ?? -1) {
    const placement = placed.get(frame);
    if (placement !== undefined) return { placement };
  }
  return null;
}

/** The marks of a shelf, wherever it stands on the page. */
export const marksOfShelf = (table: PlaceTable, shelf: string): string[] =>
  table.shelves.flatMap(([frame, place, name]) => (name === shelf ? [`${frame}.${place}`] : []));

/** The marks of the outermost elements that a placement became, wherever its shelf stands on the page. */
export const marksOfPlacement = (table: PlaceTable, placement: string): string[] =>
  table.placed.flatMap(([frame, id]) =>
    id === placement ? rootsOf(table, table.templateOf[frame] as number).map((root) => `${frame}.${root}`) : [],
  );

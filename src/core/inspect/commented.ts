import { arrangedAt, marksOfPlacement } from './on-shelf';
import type { PlaceTable } from './places';
import { marksOf, spotsAt } from './trail';

/** What a comment stands at: a piece on a shelf, a place of a file, or both: the place within that piece. */
export interface CommentedOn {
  placement: string | null;
  place: { file: string; layer: string; from: number } | null;
}

/** The mark of the page at which it stands, the first where it was rendered several times; null: it is not on this page. */
export function markOfComment(table: PlaceTable, { placement, place }: CommentedOn): string | null {
  const marks = place
    ? spotsAt(table, place.file, place.layer, place.from).flatMap((spot) => marksOf(table, spot))
    : [];
  if (placement === null) return marks[0] ?? null;
  const isWithin = (mark: string): boolean => {
    const of = arrangedAt(table, mark);
    return of !== null && 'placement' in of && of.placement === placement;
  };
  return marks.find(isWithin) ?? marksOfPlacement(table, placement)[0] ?? null;
}

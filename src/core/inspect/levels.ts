import type { Place, PlaceTable } from './places';
import { placeAt, type Spot } from './trail';

/** An element that something can be done at: as it is written, with the template and line. */
export interface Level {
  file: string;
  layer: string;
  from: number;
  line: number;
  place: Place;
  /** Where it stands on the page. */
  frame: number;
}

/**
 * A place, and what stands around it that a change may be meant for: the stock line is the root of its piece, so what is put after it
 * may as well be put after the draw of the piece; from a word within it, the root and the draw are offered too. Innermost first.
 */
export function levelsOf(table: PlaceTable, spot: Spot, frame: number): Level[] {
  const levels: Level[] = [];
  let place = table.templates[spot.template]?.places[spot.place] ?? null;
  let at = frame;
  while (place && levels.length < 12) {
    const source = table.sources[place.source];
    if (!source) break;
    levels.push({ file: source.file, layer: source.layer, from: place.from, line: place.line, place, frame: at });
    if (place.kind === 'element' && !isRoot(table, at, place)) {
      // Within its piece: the piece's own element comes next, then its draw.
      const root: Place | null = rootOf(table, at, place);
      if (!root) break;
      levels.push({ file: source.file, layer: source.layer, from: root.from, line: root.line, place: root, frame: at });
      place = root;
    }
    // Out of turns of loops and fills, to the draw of this template.
    while (at >= 0 && placeAt(table, table.parents[at] ?? -1, table.madeAt[at] ?? -1)?.kind !== 'draw') {
      if ((table.parents[at] ?? -1) < 0) return levels;
      at = table.parents[at] as number;
      if (place.kind === 'element' && (table.indexes[at] ?? -1) >= 0) return levels;
    }
    if (place.kind === 'draw' && !isRoot(table, at, place)) break;
    const parent: number = table.parents[at] ?? -1;
    if (parent < 0) break;
    place = placeAt(table, parent, table.madeAt[at] as number);
    at = parent;
  }
  return levels;
}

/** The outermost element around a place of its piece; null on a page's own template, whose elements are the page. */
function rootOf(table: PlaceTable, frame: number, place: Place): Place | null {
  if (!(table.sources[place.source]?.file ?? '').startsWith('pieces/')) return null;
  const { places = [] } = table.templates[table.templateOf[frame] as number] ?? {};
  const around = places.filter(
    (other) =>
      other.kind === 'element' && other.source === place.source && other.from < place.from && other.to > place.to,
  );
  return around.find((other) => isRoot(table, frame, other)) ?? null;
}

/** Whether no element of its own template stands around a place. */
function isRoot(table: PlaceTable, frame: number, place: Place): boolean {
  const { places = [] } = table.templates[table.templateOf[frame] as number] ?? {};
  return !places.some(
    (other) =>
      other !== place &&
      (other.kind === 'element' || other.kind === 'draw') &&
      other.source === place.source &&
      other.from < place.from &&
      other.to > place.to,
  );
}

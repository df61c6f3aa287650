import type { Place, PlaceTable } from './places';

/** A step on the way from the page's template to a place: a template, a turn of a loop, or an element. */
export interface Step {
  kind: 'template' | 'item' | 'fill' | 'element';
  template: string;
  file: string;
  layer: string;
  line: number;
  /** Of an element: its name; of a turn: its number from 1 and how many there are. */
  text: string;
  /** What the step is in the table: its frame, and the place that made it (-1 for the page's own template). */
  frame: number;
  place: number;
}

/** A mark of the page as numbers: `12.3` is place 3 in frame 12. Null for what is not a mark. */
export function readMark(mark: string): { frame: number; place: number } | null {
  const [, frame, place] = /^(\d+)\.(\d+)$/.exec(mark) ?? [];
  return frame === undefined ? null : { frame: Number(frame), place: Number(place) };
}

export function placeAt(table: PlaceTable, frame: number, place: number): Place | null {
  return table.templates[table.templateOf[frame] as number]?.places[place] ?? null;
}

export function placeOfMark(table: PlaceTable, mark: string): Place | null {
  const read = readMark(mark);
  return read && placeAt(table, read.frame, read.place);
}

/** The way from the page's template down to a frame: each draw, fill and turn of a loop. */
export function trailOf(table: PlaceTable, frame: number): Step[] {
  const steps: Step[] = [];
  const seen = new Set<number>();
  for (let at = frame; at >= 0 && !seen.has(at); at = table.parents[at] ?? -1) {
    seen.add(at);
    const parent = table.parents[at] ?? -1;
    const site = table.madeAt[at] ?? -1;
    const by = parent < 0 ? null : placeAt(table, parent, site);
    const index = table.indexes[at] ?? -1;
    const template = table.templates[table.templateOf[at] as number];
    const kind = index >= 0 ? 'item' : by?.kind === 'fill' ? 'fill' : 'template';
    const source = table.sources[by?.source ?? template?.places[0]?.source ?? 0];
    const count = kind === 'item' ? itemsOf(table, parent, site) : 0;
    steps.unshift({
      kind,
      template: template?.name ?? '',
      file: source?.file ?? `${template?.name ?? ''}.html`,
      layer: source?.layer ?? '',
      line: by?.line ?? 1,
      text: kind === 'item' ? `${index + 1} of ${count}` : (template?.name ?? ''),
      frame: at,
      place: site,
    });
  }
  return steps;
}

function itemsOf(table: PlaceTable, frame: number, place: number): number {
  for (let at = 0; at < table.loops.length; at += 3)
    if (table.loops[at] === frame && table.loops[at + 1] === place) return table.loops[at + 2] as number;
  return 0;
}

/** The chain of templates from the page down to a frame, without loops and fills: what the trail above the source shows. */
export function templatesTo(table: PlaceTable, frame: number): Step[] {
  const way = trailOf(table, frame);
  const steps = way.filter((step) => step.kind === 'template');
  // What fills a gap stands in the template that has the gap: a page in its layout.
  const gaps = new Map(table.gaps.map(([fill, gap]) => [fill, gap]));
  const around = way.flatMap((step) => (step.kind === 'fill' ? [gaps.get(step.frame) ?? -1] : []));
  for (const gap of around.reverse()) {
    const [outer] = trailOf(table, gap)
      .filter((step) => step.kind === 'template')
      .slice(-1);
    if (outer && !steps.some((step) => step.template === outer.template)) steps.unshift(outer);
  }
  // A place outside what fills the layout stands under it all the same.
  const [first] = steps;
  if (first && !first.template.startsWith('layouts/')) {
    const layout = table.parents.findIndex(
      (parent, at) =>
        parent === first.frame && table.templates[table.templateOf[at] as number]?.name.startsWith('layouts/'),
    );
    const [outer] = layout < 0 ? [] : trailOf(table, layout).slice(-1);
    if (outer) steps.unshift(outer);
  }
  return steps;
}

/** A place of a template in the table. */
export interface Spot {
  template: number;
  place: number;
}

/**
 * Where in the table an offset of a file stands: the innermost element, draw or shelf that holds it, of each template that
 * took part.
 */
export function spotsAt(table: PlaceTable, file: string, layer: string | null, offset: number): Spot[] {
  return table.templates.flatMap(({ places }, template) => {
    let best = -1;
    places.forEach((place, at) => {
      if (place.kind !== 'element' && place.kind !== 'draw' && place.kind !== 'shelf') return;
      const source = table.sources[place.source];
      if (source?.file !== file || (layer !== null && source.layer !== layer)) return;
      if (offset < place.from || offset > place.to) return;
      const now = places[best];
      if (!now || place.to - place.from <= now.to - now.from) best = at;
    });
    return best < 0 ? [] : [{ template, place: best }];
  });
}

const indexes = new WeakMap<PlaceTable, Map<string, number[]>>();

/** Frames in which a place was rendered, in the order of the page. */
export function renderedIn(table: PlaceTable, { template, place }: Spot): number[] {
  let index = indexes.get(table);
  if (!index) {
    indexes.set(table, (index = new Map()));
    for (let at = 0; at < table.rendered.length; at += 2) {
      const [frame, one] = [table.rendered[at] as number, table.rendered[at + 1] as number];
      const key = `${table.templateOf[frame]}.${one}`;
      const frames = index.get(key);
      if (frames) frames.push(frame);
      else index.set(key, [frame]);
    }
    // Draws and shelves print nothing themselves: they were where what they drew has its frame.
    table.madeAt.forEach((made, frame) => {
      const parent = table.parents[frame] ?? -1;
      const kind = parent < 0 ? null : placeAt(table, parent, made)?.kind;
      if (kind !== 'draw' && kind !== 'shelf') return;
      const key = `${table.templateOf[parent]}.${made}`;
      const frames = index?.get(key);
      if (frames) frames.push(parent);
      else index?.set(key, [parent]);
    });
  }
  return index.get(`${template}.${place}`) ?? [];
}

/** Every mark that a place may have on the page; of a draw or a shelf, those of the outermost elements that it drew. */
export function marksOf(table: PlaceTable, { template, place }: Spot): string[] {
  const kind = table.templates[template]?.places[place]?.kind;
  if (kind !== 'draw' && kind !== 'shelf')
    return renderedIn(table, { template, place }).map((frame) => `${frame}.${place}`);
  const marks: string[] = [];
  table.madeAt.forEach((made, frame) => {
    const parent = table.parents[frame] ?? -1;
    if (made !== place || parent < 0 || table.templateOf[parent] !== template) return;
    for (const root of rootsOf(table, table.templateOf[frame] as number)) marks.push(`${frame}.${root}`);
  });
  return marks;
}

/** The outermost elements of a template. */
export function rootsOf(table: PlaceTable, template: number): number[] {
  const { places = [] } = table.templates[template] ?? {};
  const elements = places.flatMap((place, at) => (place.kind === 'element' ? [{ ...place, at }] : []));
  return elements
    .filter(
      (one) =>
        !elements.some(
          (other) =>
            other !== one &&
            other.source === one.source &&
            other.from <= one.from &&
            other.to >= one.to &&
            other.at !== one.at,
        ),
    )
    .map(({ at }) => at);
}

/** How often a place was rendered on the page. */
export const countOf = (table: PlaceTable, spot: Spot): number => renderedIn(table, spot).length;

/** The draws on the way from a template of this name down to a frame, outermost first: each by where it is written. */
export function drawsBetween(
  table: PlaceTable,
  frame: number,
  from: string,
): { file: string; layer: string; from: number }[] {
  const draws: { file: string; layer: string; from: number }[] = [];
  for (let at = frame; at >= 0; at = table.parents[at] ?? -1) {
    const parent = table.parents[at] ?? -1;
    const place = parent < 0 ? null : placeAt(table, parent, table.madeAt[at] ?? -1);
    const source = place && table.sources[place.source];
    if (place?.kind !== 'draw' || !source) continue;
    draws.unshift({ file: source.file, layer: source.layer, from: place.from });
    if (table.templates[table.templateOf[parent] as number]?.name === from) return draws;
  }
  return [];
}

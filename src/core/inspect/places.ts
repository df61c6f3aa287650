import {
  fixedName,
  type ElementNode,
  type TemplateNode,
  markAttribute,
  type Trace,
  type Value,
  type Understood,
  type Expression,
  writeExpression,
  type Site,
  type SiteKind,
} from '@/core/language';

/** A place of a template, as the Bench knows it. Offsets in UTF-16 units of its file, `to` exclusive; lines from 1. */
export interface Place {
  kind: SiteKind;
  /** Number of its file in `sources`. */
  source: number;
  from: number;
  to: number;
  line: number;
  /** Of an element: its name; of all else the expression, as written. */
  text: string;
  /** Of an element: its mark for amendments. */
  mark: string | null;
  /** Of a condition: what decides, each with the catalogue's field that it asks for. */
  parts?: Part[];
  /** Of a condition or loop: the start tag of the element that depends on it. */
  element?: { from: number; openTo: number };
  /** Number of the condition around it: of a condition, and of what an amendment put into an element of another file. */
  under?: number;
}

/** What a condition asks: its text, and the object and fields when it is a field of a subject. */
export interface Part {
  text: string;
  object: string | null;
  path: string[];
  comparison: boolean;
}

/**
 * A traced page as plain data: every place of every template that took part, the frames in which they were rendered, and
 * how conditions and loops came out. What marks of the page (`frame.site`) speak of.
 */
export interface PlaceTable {
  sources: { file: string; layer: string }[];
  templates: { name: string; places: Place[] }[];
  /** Of each frame: the frame around it (-1: none), the place that made it, its template, its turn (-1: no loop's). */
  parents: number[];
  madeAt: number[];
  templateOf: number[];
  indexes: number[];
  /** Of each fill: frame, and frame and place of the gap it fills. */
  gaps: [number, number, number][];
  /** In threes: frame, place, number of items. */
  loops: number[];
  /** In fours: frame, place, 1 where it held, number of the part that decided (-1: the element before it). */
  conditions: number[];
  /** Of each condition: what decided, in words. */
  said: string[];
  /** Of each frame that a placement became: the frame, and the placement's id. */
  placed: [number, string][];
  /** Of each shelf come by: frame, place, and its name. */
  shelves: [number, number, string][];
  /** In twos: frame and place of every mark on the page, in its order. */
  rendered: number[];
}

/** Puts a trace and its page into a table. `understood` gives a template's types; `say` a value in words. */
export function placeTable(
  trace: Trace,
  html: string,
  understood: (name: string) => Understood | null,
  say: (value: Value) => string,
): PlaceTable {
  const sources: PlaceTable['sources'] = [];
  const numbers = new Map<Site['source'], number>();
  const sourceOf = (source: Site['source']): number => {
    let number = numbers.get(source);
    if (number === undefined)
      numbers.set(source, (number = sources.push({ file: source.file, layer: source.layer }) - 1));
    return number;
  };
  const templates = trace.templates.map(({ name, sites }) => {
    let meaning: Understood | null | undefined;
    const types = () => (meaning === undefined ? (meaning = understood(name)) : meaning);
    const places = sites.map((site) => placeOf(site, sourceOf(site.source), types));
    for (const [at, under] of conditionsAround(sites)) (places[at] as Place).under = under;
    return { name, places };
  });
  const rendered: number[] = [];
  for (const [, frame, site] of html.matchAll(printedMarks)) rendered.push(Number(frame), Number(site));
  return {
    sources,
    templates,
    parents: trace.parents,
    madeAt: trace.madeAt,
    templateOf: trace.templateOf,
    indexes: trace.indexes,
    gaps: [...trace.gaps].map(([frame, gap]) => [frame, gap.frame, gap.site]),
    loops: trace.loops,
    placed: [...trace.placed],
    shelves: trace.shelves,
    conditions: trace.conditions,
    said: trace.decided.map((decided, at) => {
      const [frame, site, , part] = trace.conditions.slice(at * 4, at * 4 + 4) as [number, number, number, number];
      const deciding = part < 0 ? null : trace.site(frame, site).parts[part];
      if (!deciding) return '';
      return isComparison(deciding) && Array.isArray(decided) ? decided.map(say).join('\n') : say(decided as Value);
    }),
    rendered,
  };
}

const printedMarks = new RegExp(`(?: ${markAttribute}="|<!--last )(\\d+)\\.(\\d+)`, 'g');

function placeOf(site: Site, source: number, understood: () => Understood | null): Place {
  const { kind, from, to, element, expression, parts } = site;
  const place: Place = {
    kind,
    source,
    from,
    to,
    line: site.source.place(from).line,
    text:
      kind === 'value' || kind === 'loop' || kind === 'condition'
        ? expression
          ? writeExpression(expression)
          : ''
        : (element?.name ?? ''),
    mark: element?.directives.mark ?? null,
  };
  if (kind === 'draw' && element) place.text = nameOfDraw(element.source.slice(element.from, element.openTo));
  if (kind === 'shelf' && element) place.text = fixedName(element) ?? '';
  if (kind === 'condition') place.parts = parts.map((part) => partOf(part, understood()));
  if ((kind === 'condition' || kind === 'loop') && element)
    place.element = { from: element.from, openTo: element.openTo };
  return place;
}

/** Sites of conditions, and of elements that stand in one of another file, with the site of the condition around them. */
function conditionsAround(sites: readonly Site[]): Map<number, number> {
  const conditions = new Map<ElementNode, number>();
  const elements = new Map<ElementNode, number>();
  sites.forEach(({ kind, element }, at) => {
    if (element && kind === 'condition') conditions.set(element, at);
    if (element && kind === 'element') elements.set(element, at);
  });
  const around = new Map<number, number>();
  const walk = (nodes: readonly TemplateNode[], within: ElementNode, under: number): void => {
    for (const node of nodes) {
      if (node.type !== 'element') continue;
      const [own, at] = [conditions.get(node), elements.get(node)];
      if (own !== undefined) around.set(own, under);
      if (at !== undefined && node.source !== within.source) around.set(at, own ?? under);
      // A group prints nothing: what is in it stands in what is around it.
      walk(node.children, node.own && node.name === 'group' ? within : node, own ?? under);
    }
  };
  // An outer condition comes before those in it, which then say it themselves.
  for (const [element, at] of conditions) if (!around.has(at)) walk(element.children, element, at);
  return around;
}

const nameOfDraw = (tag: string): string => /\bname\s*=\s*["']([^"']*)/.exec(tag)?.[1] ?? 'draw';

const comparisons = new Set(['==', '!=', '<', '<=', '>', '>=', 'in', 'not in']);
const isComparison = (expression: Expression): boolean =>
  expression.kind === 'binary' && comparisons.has(expression.operator);

/** Objects whose fields are counted over the catalogue. */
const counted = new Set(['Product', 'Category', 'Content', 'Article']);

/** What a part of a condition asks for: `product.was_price` is the field `was_price` of a Product. */
export function partOf(part: Expression, understood: Understood | null): Part {
  const comparison = isComparison(part);
  let at: Expression = comparison && part.kind === 'binary' ? part.left : part;
  const path: string[] = [];
  while (at.kind === 'filter') at = at.of;
  while (at.kind === 'field') {
    path.unshift(at.name);
    at = at.of;
    const object = understood?.types.get(at)?.object;
    if (object && counted.has(object)) return { text: writeExpression(part), object, path, comparison };
  }
  return { text: writeExpression(part), object: null, path: [], comparison };
}

import type { ShelfEntry } from './file';
import {
  eachElement,
  fixedName,
  type Source,
  type TemplateNode,
  type Template,
  type ThemeFacts,
} from '@/core/language';

/** A shelf of a template, as it is written there. */
export interface Shelf {
  name: string;
  /** What staff call it; null: its name. */
  label: string | null;
  help: string | null;
  /** Pieces that it takes, by name or folder (`pieces/row/*`); none: any. */
  takes: readonly string[];
  /** Fewer that show, and its own contents stand. */
  least: number | null;
  /** More are not shown. */
  most: number | null;
  source: Source;
  /** Where its start tag stands. */
  from: number;
  to: number;
  /** Where attributes of it stand, by their names: what is between their quotes. */
  values: ReadonlyMap<string, { from: number; to: number }>;
}

/** Trees are shared by all themes that hold the same files, and never change. */
const found = new WeakMap<readonly TemplateNode[], readonly Shelf[]>();

/** The shelves among these nodes, in their order. */
export function shelvesAmong(nodes: readonly TemplateNode[]): readonly Shelf[] {
  let shelves = found.get(nodes);
  if (!shelves) found.set(nodes, (shelves = lookFor(nodes)));
  return shelves;
}

function lookFor(nodes: readonly TemplateNode[]): Shelf[] {
  const shelves: Shelf[] = [];
  eachElement(nodes, (element) => {
    if (!element.own || element.name !== 'shelf') return;
    const { source, from, openTo } = element;
    const values = new Map(element.attributes.flatMap(({ name, value }) => (value ? [[name, value] as const] : [])));
    const text = (name: string) => {
      const at = values.get(name);
      return at ? source.slice(at.from, at.to) : null;
    };
    const number = (name: string) => (/^\s*\d{1,4}\s*$/.test(text(name) ?? '') ? Number(text(name)) : null);
    shelves.push({
      name: fixedName(element) ?? '',
      label: text('label'),
      help: text('help'),
      takes: (text('takes') || null)?.split(',').map((one) => one.trim()) ?? [],
      least: number('least'),
      most: number('most'),
      ...{ source, from, to: openTo, values },
    });
  });
  return shelves;
}

/** Names of the shelves among these nodes. */
export const shelvesIn = (nodes: readonly TemplateNode[]): Set<string> =>
  new Set(shelvesAmong(nodes).map(({ name }) => name));

/** The shelves of pages, by name, each with the templates that have it. Those of a piece that is placed belong to its placements. */
export function shelvesOf(theme: ThemeFacts): Map<string, { shelf: Shelf; templates: string[] }> {
  const all = new Map<string, { shelf: Shelf; templates: string[] }>();
  for (const name of theme.templateNames()) {
    const template = theme.template(name);
    for (const shelf of template && !template.placeables.length ? shelvesAmong(template.children) : []) {
      const known = all.get(shelf.name);
      if (known) known.templates.push(name);
      else all.set(shelf.name, { shelf, templates: [name] });
    }
  }
  return all;
}

/** What the shelf of a placement is called: `columns-2/left`. */
export const shelfWithin = (id: string, shelf: string): string => `${id}/${shelf}`;

/** The placement whose shelf a name is, and which of its shelves; null: of none, but of a page. */
export function placementOfShelf(name: string): { id: string; shelf: string } | null {
  const at = name.indexOf('/');
  return at < 0 ? null : { id: name.slice(0, at), shelf: name.slice(at + 1) };
}

/** Names of all shelves that a placement may stand on: those of pages, and of what is placed. */
export const shelfNames = (theme: ThemeFacts & { shelves: readonly ShelfEntry[] }): string[] => [
  ...shelvesOf(theme).keys(),
  ...theme.shelves.flatMap(({ id, piece }) =>
    id === undefined
      ? []
      : shelvesAmong(theme.template(piece)?.children ?? []).map(({ name }) => shelfWithin(id, name)),
  ),
];

/** A shelf by its name, be it a page's or a placement's; a sentence: what is wrong with the name. */
export function shelfCalled(
  name: string,
  theme: ThemeFacts,
  entries: readonly Pick<ShelfEntry, 'id' | 'piece'>[],
  ofPages: ReadonlyMap<string, { shelf: Shelf }>,
): Shelf | { wrong: string; known: Iterable<string> } {
  const page = ofPages.get(name)?.shelf;
  if (page) return page;
  const of = placementOfShelf(name);
  if (!of) return { wrong: `No template has a shelf “${name}”`, known: ofPages.keys() };
  const one = entries.find(({ id }) => id === of.id);
  if (!one) return { wrong: `There is no placement “${of.id}” for the shelf “${name}”`, known: [] };
  const own = shelvesAmong(theme.template(one.piece)?.children ?? []);
  return (
    own.find((shelf) => shelf.name === of.shelf) ?? {
      wrong: `“${one.piece}” has no shelf “${of.shelf}”`,
      known: own.map((shelf) => shelfWithin(of.id, shelf.name)),
    }
  );
}

/** Whether a pattern of `takes` names a piece: `pieces/notice`, or all of a folder, `pieces/row/*`. */
export const names = (pattern: string, piece: string): boolean =>
  pattern.endsWith('*') ? piece.startsWith(pattern.slice(0, -1)) : piece === pattern;

/** How a piece is offered to staff; null: it is not, though a shelf may name it. */
export const placeableOf = ({ placeables }: Pick<Template, 'placeables'>) => placeables.at(-1) ?? null;

/** What staff read where a label or its help is a phrase's key: that phrase in the first of these languages that has it; else as it is written. */
export function saidIn(
  text: string,
  locales: readonly string[],
  theme: { phraseIn(locale: string, key: string): unknown; firstPhrase(key: string): unknown },
): string {
  if (!/^[\w-]+(?:\.[\w-]+)+$/.test(text)) return text;
  const found = locales.map((locale) => theme.phraseIn(locale, text)).find((one) => typeof one === 'string');
  const said = found ?? theme.firstPhrase(text);
  return typeof said === 'string' ? said : text;
}

/** What a piece is called: its label, else its file's name in words. */
export function pieceLabel(name: string, template: Pick<Template, 'placeables'> | null): string {
  const plain = name.slice(name.lastIndexOf('/') + 1).replaceAll('-', ' ');
  return (template && placeableOf(template)?.label) || plain.charAt(0).toUpperCase() + plain.slice(1);
}

/** Why a piece does not fit a shelf: the shelf does not take it, or the piece is not offered for it; null: both allow it, silence allows. */
export function misfit(
  shelf: Pick<Shelf, 'name' | 'takes'>,
  piece: string,
  template: Pick<Template, 'placeables'>,
): 'shelf' | 'piece' | null {
  if (shelf.takes.length && !shelf.takes.some((pattern) => names(pattern, piece))) return 'shelf';
  const offered = placeableOf(template)?.shelves ?? [];
  return offered.length && !offered.includes(shelf.name) ? 'piece' : null;
}

/** Pieces that may be put on a shelf: offered for any, or taken by this one by name or folder. */
export function piecesFor(theme: ThemeFacts, shelf: Pick<Shelf, 'name' | 'takes'>): string[] {
  return theme.templateNames().filter((name) => {
    const template = name.startsWith('pieces/') ? theme.template(name) : null;
    if (!template || misfit(shelf, name, template)) return false;
    return placeableOf(template) !== null || shelf.takes.length > 0;
  });
}

/** Names of the pieces that are meant to be placed: some shelf names them, or they are offered. */
export function piecesForShelves(theme: ThemeFacts): string[] {
  const patterns = theme
    .templateNames()
    .flatMap((name) => shelvesAmong(theme.template(name)?.children ?? []).flatMap(({ takes }) => takes));
  return theme
    .templateNames()
    .filter(
      (name) => patterns.some((pattern) => names(pattern, name)) || (theme.template(name)?.placeables.length ?? 0) > 0,
    );
}

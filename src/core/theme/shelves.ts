import { inSeason } from '@/core/alternates';
import { findNodeAtLocation, parseTree, type Node, type ParseError } from 'jsonc-parser';
import { z } from 'zod';
import { readPath } from '@/core/address';
import type { SlugNow } from '@/core/alternates';
import { addressedKinds, addressOf } from '@/core/catalogue';
import {
  issueInWords,
  jsonErrorInWords,
  misfits,
  pathInWords,
  saidOf,
  type TemplateNode,
  Source,
  eachElement,
  fixedName,
  fixOf,
  cannotRead,
  nearestOf,
  problem,
  type Fix,
  type Placement,
  type Problem,
  type ThemeFacts,
  type Type,
} from '@/core/language';

const day = z.iso.date();

const id = z.string().regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'small letters, digits and single hyphens');

/** A fixed value, or the field of the page's subject that the input is bound to. */
const input = z.union([
  z.string(),
  z.number(),
  z.boolean(),
  z.strictObject({ field: z.string().regex(/^[a-z_]\w*(?:\.[a-z_]\w*)+$/) }),
]);

/** A piece on a shelf, with its inputs. */
const placement = z.strictObject({
  /** Its name, by which the files of upper layers change it. */
  id: id.optional(),
  shelf: z.string().min(1),
  piece: z.string().min(1),
  inputs: z.record(z.string(), input).default({}),
  /** On pages of this template only: `product/default`. */
  template: z.string().optional(),
  /** On this subject's page only: `product/tarred-hemp-rope`. */
  subject: z.string().optional(),
  /** First and last day on which it stands there. */
  from: day.optional(),
  to: day.optional(),
  /** The same days of every year, from the first one on. */
  yearly: z.boolean().optional(),
  /** Shown nowhere: how an upper layer removes what a lower one placed. */
  hidden: z.boolean().optional(),
});

/** A placement as a file writes it: of one that a lower layer has, only what is to be different. null removes a key or an input. */
const written = z.strictObject({
  id: id.optional(),
  shelf: z.string().min(1).optional(),
  piece: z.string().min(1).optional(),
  inputs: z.record(z.string(), input.nullable()).optional(),
  template: z.string().nullish(),
  subject: z.string().nullish(),
  from: day.nullish(),
  to: day.nullish(),
  yearly: z.boolean().nullish(),
  hidden: z.boolean().optional(),
  /** The id of the placement that it stands right before, or after; else it comes last, or stays where it was. */
  before: id.optional(),
  after: id.optional(),
});

/** All that a `shelves.json` may hold. */
export const shelvesFile = z.strictObject({ placements: z.array(written) });

export type ShelfEntry = z.output<typeof placement>;
type Written = z.output<typeof written>;

export interface Shelves {
  entries: ShelfEntry[];
  /** What is wrong with the file, each by its path in it. What is wrong is left out; the rest serves. */
  wrong: { path: (string | number)[]; text: string; offset: number }[];
}

/** Whether no placement of the file has an id: such a file is not merged, and stands in place of those below. */
const standsAlone = (nodes: readonly Node[]): boolean =>
  nodes.length > 0 && nodes.every((node) => !findNodeAtLocation(node, ['id']));

const placementNodes = (text: string): readonly Node[] => {
  const root = parseTree(text);
  return (root && findNodeAtLocation(root, ['placements'])?.children) ?? [];
};

/** A placement over the one below it that has its id: keys and inputs that it names are as it says. */
function over(below: ShelfEntry | undefined, { before: _, after: __, ...given }: Written): unknown {
  const drop = (one: object) => Object.fromEntries(Object.entries(one).filter(([, value]) => value !== null));
  const { inputs, ...rest } = given;
  return drop({ ...below, ...rest, inputs: drop({ ...below?.inputs, ...inputs }) });
}

/**
 * Reads a layer's `shelves.json`, over the placements of the layers below: `{"placements": [{"id"?, "shelf", "piece", "inputs"?,
 * "template"?, "subject"?, "from"?, "to"?, "yearly"?, "hidden"?, "before"?, "after"?}]}`.
 */
export function readShelves(text: string | null, below: readonly ShelfEntry[] = []): Shelves {
  const shelves: Shelves = { entries: [...below], wrong: [] };
  if (text === null) return shelves;
  const errors: ParseError[] = [];
  const root = parseTree(text, errors);
  const [broken] = errors;
  if (broken)
    shelves.wrong.push({
      path: [],
      text: `shelves.json is not valid JSON: ${jsonErrorInWords(broken, text)}`,
      offset: broken.offset,
    });
  const list = root && findNodeAtLocation(root, ['placements']);
  if (!root || !list || list.type !== 'array') {
    if (!errors.length)
      shelves.wrong.push({ path: [], text: 'shelves.json holds a list “placements”', offset: root?.offset ?? 0 });
    return shelves;
  }
  const nodes = list.children ?? [];
  if (standsAlone(nodes)) shelves.entries = [];
  const seen = new Set<string>();
  nodes.forEach((node, at) => {
    const wrong = (inner: (string | number)[], message: string) => {
      const where = findNodeAtLocation(node, inner) ?? node;
      const path = ['placements', at, ...inner];
      shelves.wrong.push({ path, text: saidOf(pathInWords(path), message), offset: where.offset });
    };
    const given = written.safeParse(valueOf(node));
    if (!given.success) {
      for (const { path, says } of misfits(text.slice(node.offset, node.offset + node.length), written))
        wrong(path, says);
      return;
    }
    const { id: own, before, after } = given.data;
    if (own !== undefined && seen.has(own)) return wrong(['id'], `another placement of this file is “${own}” too`);
    const from = own === undefined ? -1 : shelves.entries.findIndex((one) => one.id === own);
    const merged = placement.safeParse(over(shelves.entries[from], given.data));
    if (!merged.success) {
      const [issue] = merged.error.issues;
      return wrong(issue?.path.filter((step) => typeof step !== 'symbol') ?? [], issue ? issueInWords(issue) : '');
    }
    if (own !== undefined) seen.add(own);
    const beside = before ?? after;
    const among = shelves.entries.filter((_, place) => place !== from);
    const to = beside === undefined ? -1 : among.findIndex((one) => one.id === beside);
    if (beside !== undefined && to < 0)
      wrong([before === undefined ? 'after' : 'before'], `there is no placement “${beside}” here or in a layer below`);
    if (to >= 0) among.splice(to + (before === undefined ? 1 : 0), 0, merged.data);
    else among.splice(from < 0 ? among.length : from, 0, merged.data);
    shelves.entries = among;
  });
  return shelves;
}

function valueOf(node: Node): unknown {
  if (node.type === 'array') return (node.children ?? []).map(valueOf);
  if (node.type !== 'object') return node.value;
  return Object.fromEntries(
    (node.children ?? []).flatMap(({ children }) => {
      const [key, value] = children ?? [];
      return key && value ? [[String(key.value), valueOf(value)]] : [];
    }),
  );
}

/** The templates that placements name, each with where its name stands: offsets of the text, without the quotes. */
export function templatesNamed(text: string): { name: string; from: number; to: number }[] {
  return placementNodes(text).flatMap((node) =>
    ['piece', 'template'].flatMap((key) => {
      const at = findNodeAtLocation(node, [key]);
      return at?.type === 'string'
        ? [{ name: String(at.value), from: at.offset + 1, to: at.offset + at.length - 1 }]
        : [];
    }),
  );
}

/** What stands on one shelf of one page on one day, in order. */
export function placementsOn(
  entries: readonly ShelfEntry[],
  page: { shelf: string; template: string; subject: string; today: string },
): Placement[] {
  return entries.flatMap((one) => {
    if (one.shelf !== page.shelf || one.hidden) return [];
    if (one.template !== undefined && one.template !== page.template) return [];
    if (one.subject !== undefined && one.subject !== page.subject) return [];
    if (!inSeason({ from: one.from ?? null, to: one.to ?? null, yearly: one.yearly }, page.today)) return [];
    const inputs: Placement['inputs'] = {};
    for (const [name, value] of Object.entries(one.inputs))
      inputs[name] = typeof value === 'object' ? value : { value };
    return [{ piece: one.piece, inputs }];
  });
}

/** Placements on subjects by the slugs that these have now, whatever they were called when the file was written. */
export const shelvesFollowed = (entries: readonly ShelfEntry[], now: SlugNow): ShelfEntry[] =>
  entries.map((entry) => {
    const subject = entry.subject === undefined ? null : readPath(`/${entry.subject}`);
    if (!subject) return entry;
    const [by = '', name] = subject.kind === 'listing' ? subject.slug.split('/') : [subject.kind, subject.slug];
    const kind = addressedKinds.find((one) => one === by);
    const slug = kind && name ? now(kind, name) : null;
    return kind && slug !== null ? { ...entry, subject: addressOf(kind, slug).slice(1) } : entry;
  });

/**
 * Holds the placements of a layer's file against the theme: pieces, their inputs, shelves, and fields that inputs are bound to.
 * Of a placement that changes one of a layer below, only what it names is held against it.
 */
export function checkShelves(
  text: string | null,
  layer: string,
  theme: ThemeFacts,
  below: readonly ShelfEntry[] = [],
  /** Shelves of files that an upper layer replaced: what is placed there is only not seen. */
  replaced: () => ReadonlySet<string> = () => new Set(),
): Problem[] {
  if (text === null) return [];
  const source = new Source('shelves.json', text, layer);
  const problems: Problem[] = [];
  const report = (from: number, to: number, message: string, fix?: Fix) => {
    const reported = problem('shelf', source, { from, to }, { text: message });
    if (fix) reported.fix = fix;
    problems.push(reported);
  };
  const shelves = readShelves(text, below);
  for (const { text: message, offset } of shelves.wrong) report(offset, offset + 1, message);
  const named = shelvesOf(theme);
  const nodes = placementNodes(text);
  const alone = standsAlone(nodes);
  for (const node of nodes) {
    const given = written.safeParse(valueOf(node));
    if (!given.success) continue;
    const changed = alone ? undefined : below.find((one) => one.id !== undefined && one.id === given.data.id);
    const read = placement.safeParse(over(changed, given.data));
    if (!read.success) continue;
    const { shelf, piece, inputs, template, subject } = read.data;
    const names = (...keys: string[]) => !changed || keys.some((key) => findNodeAtLocation(node, [key]));
    const at = (...path: string[]) => {
      const found = findNodeAtLocation(node, path) ?? node;
      return { from: found.offset, to: found.offset + found.length };
    };
    const say = (path: string[], message: string, known?: Iterable<string>, name = '') => {
      const span = at(...path);
      const near = known ? nearestOf(name, known) : null;
      const meant = near ? `; did you mean “${near.name}”?` : '';
      report(span.from, span.to, message + meant, fixOf(near, { from: span.from + 1, to: span.to - 1 }));
    };
    if (read.data.yearly && names('yearly') && (read.data.from === undefined || read.data.to === undefined))
      say(['yearly'], 'What comes every year needs a first and a last day, “from” and “to”');
    if (names('shelf') && !named.has(shelf) && !replaced().has(shelf))
      say(['shelf'], `No template has a shelf “${shelf}”`, named, shelf);
    if (template !== undefined && names('template') && !theme.template(template))
      say(['template'], `There is no template “${template}” in this theme`, theme.templateNames(), template);
    if (
      subject !== undefined &&
      names('subject') &&
      readPath(`/${subject}`) &&
      theme.site?.leads(`/${subject}`) === false
    )
      say(['subject'], `The shop has no page “/${subject}”`);
    if (!names('piece', 'inputs')) continue;
    const drawn = theme.template(piece);
    if (!drawn) {
      say(['piece'], `There is no template “${piece}” in this theme`, theme.templateNames(), piece);
      continue;
    }
    for (const take of drawn.takes) {
      const given = inputs[take.name];
      if (given === undefined) {
        if (take.required && take.default === null) say([], `“${piece}” requires the input “${take.name}”`);
      } else if (typeof given === 'string' && cannotRead(take, given)) {
        say(['inputs', take.name], `“${given}” cannot be read as ${take.type} for “${take.name}”`, take.options, given);
      }
    }
    const takes = drawn.takes.map((take) => take.name);
    for (const [name, given] of Object.entries(inputs)) {
      if (!takes.includes(name)) say(['inputs', name], `“${piece}” takes no input “${name}”`);
      else if (typeof given === 'object') {
        const kind = (template ?? subject)?.split('/')[0] ?? null;
        const wrong = wrongField(given.field, kind, theme);
        if (wrong) say(['inputs', name, 'field'], wrong);
      }
    }
  }
  return problems;
}

/** The shelves that the theme's templates have. */
export function shelvesOf(theme: ThemeFacts): Set<string> {
  const names = new Set<string>();
  for (const name of theme.templateNames())
    for (const shelf of shelvesIn(theme.template(name)?.children ?? [])) names.add(shelf);
  return names;
}

/** Names of the pieces that some shelf of the theme says it takes: `takes="pieces/notice, pieces/row/*"`. */
export function piecesForShelves(theme: ThemeFacts): string[] {
  const patterns = new Set<string>();
  for (const name of theme.templateNames())
    eachElement(theme.template(name)?.children ?? [], (element) => {
      if (!element.own || element.name !== 'shelf') return;
      const takes = element.attributes.find((one) => one.name === 'takes')?.value;
      if (takes) for (const one of element.source.slice(takes.from, takes.to).split(',')) patterns.add(one.trim());
    });
  const fits = (name: string) =>
    [...patterns].some((one) => (one.endsWith('*') ? name.startsWith(one.slice(0, -1)) : name === one));
  return theme.templateNames().filter(fits);
}

/** The shelves among these nodes. */
export function shelvesIn(nodes: readonly TemplateNode[]): Set<string> {
  const names = new Set<string>();
  eachElement(nodes, (element) => {
    if (element.own && element.name === 'shelf') names.add(fixedName(element) ?? '');
  });
  return names;
}

/** What is wrong with a field that an input is bound to: a sentence, or null. */
function wrongField(path: string, kind: string | null, { types }: ThemeFacts): string | null {
  if (!types) return null;
  const [root = '', ...names] = path.split('.');
  const kinds = kind === null ? ['product', 'category', 'listing', 'content', 'article'] : [kind];
  const subject = kinds.map((one) => types.page(one)?.get(root)).find((one) => one !== undefined);
  if (!subject) return `Such a page has no “${root}”`;
  let type: Type = subject;
  for (const name of names) {
    const fields = type.object ? types.fields(type.object) : null;
    if (!fields) return type.kind === 'Record' ? null : `“${path}” goes through what is not an object`;
    const field = fields.get(name);
    if (!field) {
      const near = nearestOf(name, fields.keys());
      return `${type.object} has no field “${name}”${near ? `; did you mean “${near.name}”?` : ''}`;
    }
    type = field;
  }
  return null;
}

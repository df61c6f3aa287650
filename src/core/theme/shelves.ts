import { findNodeAtLocation, parseTree, type Node, type ParseError } from 'jsonc-parser';
import { z } from 'zod';
import {
  jsonErrorInWords,
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

/** A piece on a shelf, with its inputs: a fixed value, or the field of the page's subject that it is bound to. */
const placement = z.strictObject({
  shelf: z.string().min(1),
  piece: z.string().min(1),
  inputs: z
    .record(
      z.string(),
      z.union([
        z.string(),
        z.number(),
        z.boolean(),
        z.strictObject({ field: z.string().regex(/^[a-z_]\w*(?:\.[a-z_]\w*)+$/) }),
      ]),
    )
    .default({}),
  /** On pages of this template only: `product/default`. */
  template: z.string().optional(),
  /** On this subject's page only: `product/tarred-hemp-rope`. */
  subject: z.string().optional(),
  /** First and last day on which it stands there. */
  from: day.optional(),
  to: day.optional(),
});

export type ShelfEntry = z.output<typeof placement>;

export interface Shelves {
  entries: ShelfEntry[];
  /** What is wrong with the file, each by its path in it. What is wrong is left out; the rest serves. */
  wrong: { path: (string | number)[]; text: string; offset: number }[];
}

/** Reads `shelves.json`: `{"placements": [{"shelf", "piece", "inputs"?, "template"?, "subject"?, "from"?, "to"?}]}`. */
export function readShelves(text: string | null): Shelves {
  const shelves: Shelves = { entries: [], wrong: [] };
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
  list.children?.forEach((node, at) => {
    const result = placement.safeParse(valueOf(node));
    if (result.success) {
      shelves.entries.push(result.data);
      return;
    }
    const issue = result.error.issues[0] as z.core.$ZodIssue;
    const inner = issue.path.filter((step): step is string | number => typeof step !== 'symbol');
    const where = findNodeAtLocation(node, inner) ?? node;
    const path = ['placements', at, ...inner];
    shelves.wrong.push({ path, text: `${written(path)}: ${issue.message}`, offset: where.offset });
  });
  return shelves;
}

/** `placements[2].from` */
const written = (path: (string | number)[]): string =>
  path.reduce<string>((all, step) => all + (typeof step === 'number' ? `[${step}]` : all ? `.${step}` : step), '');

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
  const root = parseTree(text);
  const nodes = (root && findNodeAtLocation(root, ['placements'])?.children) ?? [];
  return nodes.flatMap((node) =>
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
    if (one.shelf !== page.shelf) return [];
    if (one.template !== undefined && one.template !== page.template) return [];
    if (one.subject !== undefined && one.subject !== page.subject) return [];
    if ((one.from !== undefined && page.today < one.from) || (one.to !== undefined && page.today > one.to)) return [];
    const inputs: Placement['inputs'] = {};
    for (const [name, value] of Object.entries(one.inputs))
      inputs[name] = typeof value === 'object' ? value : { value };
    return [{ piece: one.piece, inputs }];
  });
}

/** Holds the placements against the theme: pieces, their inputs, shelves, and fields that inputs are bound to. */
export function checkShelves(
  text: string | null,
  layer: string,
  theme: ThemeFacts,
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
  const shelves = readShelves(text);
  for (const { text: message, offset } of shelves.wrong) report(offset, offset + 1, message);
  const root = parseTree(text);
  const named = shelvesOf(theme);
  const nodes = (root && findNodeAtLocation(root, ['placements'])?.children) ?? [];
  for (const node of nodes) {
    const read = placement.safeParse(valueOf(node));
    if (!read.success) continue;
    const { shelf, piece, inputs, template, subject } = read.data;
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
    if (!named.has(shelf) && !replaced().has(shelf)) say(['shelf'], `No template has a shelf “${shelf}”`, named, shelf);
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
function shelvesOf(theme: ThemeFacts): Set<string> {
  const names = new Set<string>();
  for (const name of theme.templateNames())
    for (const shelf of shelvesIn(theme.template(name)?.children ?? [])) names.add(shelf);
  return names;
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

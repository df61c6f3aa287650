import { type Node, type ParseError, findNodeAtLocation, parseTree } from 'jsonc-parser';
import { z } from 'zod';
import { readPath, subjectKinds } from '@/core/address';
import { condition, type SlugNow } from '@/core/alternates';
import { addressedKinds, addressOf } from '@/core/catalogue';
import { issueInWords, jsonErrorInWords, misfits, pathInWords, saidOf } from '@/core/language';

const day = z.iso.date();

const id = z.string().regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'small letters, digits and single hyphens');

/** Texts by language: `{"en-GB": "Until Friday", "fr": "Jusqu'à vendredi"}`. */
const texts = z.record(z.string().regex(/^[a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*$/, 'a language, as en-GB'), z.string());

/** A fixed value, texts by language, a phrase, or the field of the page's subject that the input is bound to. */
const input = z.union([
  z.string(),
  z.number(),
  z.boolean(),
  z.array(z.string()).max(200),
  z.strictObject({ texts }),
  z.strictObject({ phrase: z.string().min(1) }),
  z.strictObject({ field: z.string().regex(/^[a-z_]\w*(?:\.[a-z_]\w*)+$/) }),
]);
export type InputEntry = z.output<typeof input>;

const kind = z.enum(subjectKinds);

/** A piece on a shelf, with its inputs. */
export const placement = z.strictObject({
  /** Its name, by which the files of upper layers change it. */
  id: id.optional(),
  shelf: z.string().min(1),
  piece: z.string().min(1),
  inputs: z.record(z.string(), input).default({}),
  /** On pages of this kind only. */
  kind: kind.optional(),
  /** And of those only where this holds of the subject, as in a rule. */
  when: condition.optional(),
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
export const written = z.strictObject({
  id: id.optional(),
  shelf: z.string().min(1).optional(),
  piece: z.string().min(1).optional(),
  inputs: z.record(z.string(), input.nullable()).optional(),
  kind: kind.nullish(),
  when: condition.nullish(),
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
export type WrittenEntry = z.output<typeof written>;

export interface Shelves {
  entries: ShelfEntry[];
  /** What is wrong with the file, each by its path in it. What is wrong is left out; the rest serves. */
  wrong: { path: (string | number)[]; text: string; offset: number }[];
}

/** Whether no placement of the file has an id: such a file is not merged, and stands in place of those below. */
export const standsAlone = (nodes: readonly Node[]): boolean =>
  nodes.length > 0 && nodes.every((node) => !findNodeAtLocation(node, ['id']));

export const placementNodes = (text: string): readonly Node[] => {
  const root = parseTree(text);
  return (root && findNodeAtLocation(root, ['placements'])?.children) ?? [];
};

/** A placement over the one below it that has its id: keys and inputs that it names are as it says. */
export function over(below: ShelfEntry | undefined, { before: _, after: __, ...given }: WrittenEntry): unknown {
  const drop = (one: object) => Object.fromEntries(Object.entries(one).filter(([, value]) => value !== null));
  const { inputs, ...rest } = given;
  return drop({ ...below, ...rest, inputs: drop({ ...below?.inputs, ...inputs }) });
}

/**
 * Reads a layer's `shelves.json`, over the placements of the layers below: `{"placements": [{"id"?, "shelf", "piece", "inputs"?,
 * "kind"?, "when"?, "template"?, "subject"?, "from"?, "to"?, "yearly"?, "hidden"?, "before"?, "after"?}]}`.
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

export function valueOf(node: Node): unknown {
  if (node.type === 'array') return (node.children ?? []).map(valueOf);
  if (node.type !== 'object') return node.value;
  return Object.fromEntries(
    (node.children ?? []).flatMap(({ children }) => {
      const [key, value] = children ?? [];
      return key && value ? [[String(key.value), valueOf(value)]] : [];
    }),
  );
}

/** The templates and phrases that placements name, each with where its name stands: offsets of the text, without the quotes. */
export function namedInShelves(text: string): { kind: 'piece' | 'phrase'; name: string; from: number; to: number }[] {
  return placementNodes(text).flatMap((node) => {
    const put = (kind: 'piece' | 'phrase', at: Node | undefined) =>
      at?.type === 'string'
        ? [{ kind, name: String(at.value), from: at.offset + 1, to: at.offset + at.length - 1 }]
        : [];
    const inputs = findNodeAtLocation(node, ['inputs'])?.children ?? [];
    return [
      ...['piece', 'template'].flatMap((key) => put('piece', findNodeAtLocation(node, [key]))),
      ...inputs.flatMap(({ children }) =>
        children?.[1]?.type === 'object' ? put('phrase', findNodeAtLocation(children[1], ['phrase'])) : [],
      ),
    ];
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

import { type Condition, leavesOf, wrongLeaf } from '@/core/alternates';
import { readPath } from '@/core/address';
import { type AddressedKind, addressedKinds, addressOf, type Definitions, type SubjectKind } from '@/core/catalogue';
import {
  cannotRead,
  type Fix,
  fits,
  fixOf,
  inputType,
  inWords,
  nearestOf,
  problem,
  type Problem,
  Source,
  type Take,
  type ThemeFacts,
} from '@/core/language';
import { findNodeAtLocation } from 'jsonc-parser';
import {
  type InputEntry,
  over,
  placement,
  placementNodes,
  readShelves,
  type ShelfEntry,
  standsAlone,
  valueOf,
  written,
} from './file';
import { boundType, givenBy } from './fields';
import { misfit, shelfCalled, shelvesOf } from './fit';

/** What placements are held against besides the theme. */
export interface Around {
  /** Placements of the layers below. */
  below: readonly ShelfEntry[];
  /** Shelves of files that an upper layer replaced: what is placed there is only not seen. */
  replaced: () => ReadonlySet<string>;
  /** The shop's custom fields; null: not at hand. */
  definitions: Definitions | null;
}

/**
 * Holds the placements of a layer's file against the theme: pieces, their inputs, shelves, and fields that inputs are bound to.
 * Of a placement that changes one of a layer below, only what it names is held against it.
 */
export function checkShelves(
  text: string | null,
  layer: string,
  theme: ThemeFacts,
  { below = [], replaced = () => new Set(), definitions = null }: Partial<Around> = {},
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
    const says = (...keys: string[]) => !changed || keys.some((key) => findNodeAtLocation(node, [key]));
    const say: Say = (path, message, known, name = '') => {
      const at = findNodeAtLocation(node, path) ?? node;
      const span = { from: at.offset, to: at.offset + at.length };
      const near = known ? nearestOf(name, known) : null;
      const meant = near ? `; did you mean “${near.name}”?` : '';
      report(span.from, span.to, message + meant, fixOf(near, { from: span.from + 1, to: span.to - 1 }));
    };
    const one = read.data;
    const found = shelfCalled(one.shelf, theme, shelves.entries, named);
    if (says('shelf') && 'wrong' in found && !replaced().has(one.shelf))
      say(['shelf'], found.wrong, found.known, one.shelf);
    checkWhere(one, says, say, theme, definitions);
    checkDays(one, says, say);
    if (!says('piece', 'inputs', 'shelf')) continue;
    const drawn = theme.template(one.piece);
    if (!drawn) {
      if (says('piece', 'inputs'))
        say(['piece'], `There is no template “${one.piece}” in this theme`, theme.templateNames(), one.piece);
      continue;
    }
    const shelf = 'wrong' in found ? null : found;
    const unfit = shelf && says('piece', 'shelf') ? misfit(shelf, one.piece, drawn) : null;
    if (unfit === 'shelf') say(['piece'], `The shelf “${one.shelf}” does not take “${one.piece}”`);
    if (unfit === 'piece') say(['shelf'], `“${one.piece}” is not offered for the shelf “${one.shelf}”`);
    if (says('piece', 'inputs')) checkInputs(one, drawn.takes, say, theme, definitions);
  }
  return problems;
}

/** Says what is wrong with a part of a placement; with known names, which one may be meant. */
type Say = (path: (string | number)[], message: string, known?: Iterable<string>, name?: string) => void;
type Says = (...keys: string[]) => boolean;

/** Where it stands: its template, its subject, its kind of page and condition. */
function checkWhere(
  { template, subject, kind, when }: ShelfEntry,
  says: Says,
  say: Say,
  theme: ThemeFacts,
  definitions: Definitions | null,
): void {
  if (template !== undefined && says('template') && !theme.template(template))
    say(['template'], `There is no template “${template}” in this theme`, theme.templateNames(), template);
  if (subject !== undefined && says('subject') && leadsNowhere(`/${subject}`, theme))
    say(['subject'], `The shop has no page “/${subject}”`);
  for (const [key, of] of [
    ['template', template],
    ['subject', subject],
  ] as const)
    if (kind !== undefined && of !== undefined && says('kind', key) && of.split('/')[0] !== kind)
      say([key], `It stands nowhere: “${of}” is no page of the kind “${kind}”`);
  if (when === undefined || !says('when', 'kind')) return;
  if (kind === undefined) say(['when'], 'A condition needs the kind of page that it is asked of: “kind”');
  else if (definitions) for (const message of wrongIn(when, kind, definitions)) say(['when'], message);
}

function wrongIn(when: Condition, kind: SubjectKind, definitions: Definitions): string[] {
  return [...leavesOf(when)].flatMap((leaf) => wrongLeaf(kind, leaf, definitions)?.says ?? []);
}

/** Days that never come. */
function checkDays({ from, to, yearly }: ShelfEntry, says: Says, say: Say): void {
  if (!says('yearly', 'from', 'to')) return;
  if (yearly && (from === undefined || to === undefined))
    say(['yearly'], 'What comes every year needs a first and a last day, “from” and “to”');
  if (from !== undefined && to !== undefined && to < from)
    say(['to'], `It never comes: its last day, ${to}, is before its first, ${from}`);
}

const leadsNowhere = (path: string, { site }: ThemeFacts): boolean =>
  readPath(path) !== null && site?.leads(path) === false;

function checkInputs(
  { piece, inputs, kind, template, subject }: ShelfEntry,
  takes: readonly Take[],
  say: Say,
  theme: ThemeFacts,
  definitions: Definitions | null,
) {
  const of = kind ?? (template ?? subject)?.split('/')[0] ?? null;
  for (const take of takes)
    if (inputs[take.name] === undefined && take.required && take.default === null)
      say([], `“${piece}” requires the input “${take.name}”`);
  for (const [name, given] of Object.entries(inputs)) {
    const take = takes.find((one) => one.name === name);
    if (!take) {
      const known = takes.map((one) => one.name);
      say(['inputs', name], `“${piece}” takes no input “${name}”${nearly(name, known)}`);
    } else
      checkInput(take, given, say, theme, (path) => {
        const type = boundType(path, of, theme);
        return type && !('wrong' in type) ? givenBy(path, type, definitions) : type;
      });
  }
}

const nearly = (name: string, known: Iterable<string>): string => {
  const near = nearestOf(name, known);
  return near ? `; did you mean “${near.name}”?` : '';
};

/** Types of input that hold text, which differs by language. */
const spoken = new Set(['text', 'html']);

function checkInput(
  take: Take,
  given: InputEntry,
  say: Say,
  theme: ThemeFacts,
  fieldType: (path: string) => ReturnType<typeof boundType>,
): void {
  const path = ['inputs', take.name];
  if (Array.isArray(given)) {
    const item = /^List of (\w+)$/.exec(take.type)?.[1]?.toLowerCase();
    if (item === undefined && take.type !== 'list') say(path, `“${take.name}” is one ${take.type}, not a list`);
    given.forEach((one, at) => {
      const wrong = item === undefined ? null : gone(item, one, theme);
      if (wrong) say([...path, at], wrong);
    });
  } else if (typeof given === 'string') {
    const wrong = gone(take.type, given, theme);
    if (!kindNamed(take.type) && cannotRead(take, given))
      say(path, `“${given}” cannot be read as ${take.type} for “${take.name}”`, take.options, given);
    else if (wrong) say(path, wrong);
  } else if (typeof given === 'number') {
    const wrong = outOfBounds(take, given);
    if (wrong) say(path, wrong);
  } else if (typeof given !== 'object') return;
  else if ('texts' in given) {
    if (!spoken.has(take.type)) say(path, `“${take.name}” is a ${take.type}: it is the same in every language`);
  } else if ('phrase' in given) {
    if (theme.phrase(given.phrase) === null)
      say([...path, 'phrase'], `There is no phrase “${given.phrase}”`, theme.phraseKeys(), given.phrase);
  } else {
    const type = fieldType(given.field);
    if (type && 'wrong' in type) say([...path, 'field'], type.wrong);
    else if (type && !fits(type, inputType(take)))
      say([...path, 'field'], `“${take.name}” is ${inWords(inputType(take))}; “${given.field}” is ${inWords(type)}`);
  }
}

/** What is wrong with a number, as its input bounds it: a sentence, or null. */
function outOfBounds({ name, least, most, unit }: Take, given: number): string | null {
  const said = (bound: number) => `${bound}${unit ? ` ${unit}` : ''}`;
  if (least !== null && given < least) return `“${name}” is ${given}: at least ${said(least)}`;
  return most !== null && given > most ? `“${name}” is ${given}: at most ${said(most)}` : null;
}

/** What an input names by its slug; null: it names nothing so. */
const kindNamed = (type: string): AddressedKind | null => {
  const of = type.replace(/^List of /, '').toLowerCase();
  return addressedKinds.find((one) => one === of) ?? null;
};

/** What an input names and the shop does not have: a sentence, or null. */
function gone(type: string, given: string, theme: ThemeFacts): string | null {
  if (type === 'link')
    return /^\/(?!\/)/.test(given) && leadsNowhere(given, theme) ? `The shop has no page “${given}”` : null;
  const kind = kindNamed(type);
  return kind && given && leadsNowhere(addressOf(kind, given), theme) ? `There is no ${kind} “${given}”` : null;
}

import { findNodeAtLocation, parseTree, type Node, type ParseError } from 'jsonc-parser';
import { z } from 'zod';
import { Source, problem, type Problem, jsonErrorInWords, misfits, saidOf } from '@/core/language';
import { subjectKinds } from '@/core/address';
import { condition, type Condition } from './condition';
import type { SubjectKind } from '@/core/catalogue';

const kind = z.enum(subjectKinds);
const name = z
  .string()
  .regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'a name is made of small letters, digits and single hyphens')
  .max(60);
/** Path of a piece that is given subjects of the kind: `pieces/tile`. None: pages of the kind are meant. */
export const pieceName = z
  .string()
  .regex(/^pieces\/[a-z0-9-]+(?:\/[a-z0-9-]+)*$/, 'a piece is named by its path: pieces/tile');
const piece = pieceName.optional();

/** An alternate: a template beside the default one of a kind of page, or of a piece. */
export const alternateEntry = z.object({
  kind,
  piece,
  /** File name beside the default, without `.html`. */
  name: name.refine((given) => given !== 'default', '“default” serves what is not assigned, and is not an alternate'),
  label: z.string().trim().min(1).max(80),
  note: z.string().max(500).default(''),
  /** Product types that it is meant for; none: all. */
  types: z.array(z.string()).default([]),
});

/** Gives an alternate (or `default`, whatever rules say) to one subject. */
export const pinEntry = z.object({ kind, piece, slug: z.string().max(300), alternate: name });

/** Gives an alternate to all subjects for which a condition holds, on days from one to another, both included. */
export const ruleEntry = z.object({
  /** Names it among all rules; given when it is read without one. */
  id: z.string().min(1).max(80).optional(),
  kind,
  piece,
  alternate: name,
  when: condition,
  from: z.iso.date().nullable().default(null),
  to: z.iso.date().nullable().default(null),
  /** The same days of every year, from the first one on. */
  yearly: z.boolean().optional(),
  note: z.string().max(500).default(''),
});

export type Alternate = z.output<typeof alternateEntry>;
export type Pin = z.output<typeof pinEntry>;
export type Rule = Omit<z.output<typeof ruleEntry>, 'id' | 'when'> & { id: string; when: Condition };

/** All that an `alternates.json` may hold. */
export const alternatesFile = z.strictObject({
  alternates: z.array(alternateEntry.strict()).optional(),
  pins: z.array(pinEntry.strict()).optional(),
  rules: z.array(ruleEntry.strict()).optional(),
});

/** All alternates of a theme and who gets them: pins go before rules, rules in their order. */
export interface Alternates {
  alternates: Alternate[];
  pins: Pin[];
  rules: Rule[];
}

/** What has alternates: pages of a kind, or a piece that is given subjects of a kind. */
export interface Target {
  kind: SubjectKind;
  piece?: string | undefined;
}

/** Names a target: the kind of page, or the piece. */
export const targetKey = ({ kind: of, piece: inside }: Target): string => inside ?? of;

/** The template of a target by the name of an alternate, or of its default. */
export function templateOf(target: Target, alternate: string): string {
  if (alternate !== 'default') return `${targetKey(target)}/${alternate}`;
  return target.piece ?? `${target.kind}/default`;
}

export const sameTarget = (a: Target, b: Target): boolean => a.kind === b.kind && a.piece === b.piece;

/** The pins and rules of a target, in their order. */
export function assignedTo({ pins, rules, alternates }: Alternates, target: Target): Alternates {
  return {
    alternates: alternates.filter((one) => sameTarget(one, target)),
    pins: pins.filter((one) => sameTarget(one, target)),
    rules: rules.filter((one) => sameTarget(one, target)),
  };
}

/** A mistake in `alternates.json`: where it is (lines from 1, an offset in UTF-16 units), and what is wrong. */
export interface Wrong {
  path: string;
  line: number;
  offset: number;
  says: string;
  /** A key without meaning: the entry serves without it. */
  key?: boolean;
}

export interface ReadAlternates {
  alternates: Alternates;
  wrong: Wrong[];
  /** The line of each entry in the file. */
  lines: Record<keyof Alternates, number[]>;
  /** Entries with mistakes and lists of other names, as they stand: they are written back, so that nothing typed by hand is lost. */
  left: Record<keyof Alternates, unknown[]> & { others: Record<string, unknown> };
}

/** Reads `alternates.json`. What is wrong is said by its path and line, and left out; the rest serves. */
export function readAlternates(text: string | null): ReadAlternates {
  const lines: ReadAlternates['lines'] = { alternates: [], pins: [], rules: [] };
  const none = (): Alternates => ({ alternates: [], pins: [], rules: [] });
  const left: ReadAlternates['left'] = { alternates: [], pins: [], rules: [], others: {} };
  if (text === null) return { alternates: none(), wrong: [], lines, left };
  const errors: ParseError[] = [];
  const tree = parseTree(text, errors, { disallowComments: true, allowTrailingComma: false });
  const lineAt = (offset: number) => text.slice(0, offset).split('\n').length;
  const [broken] = errors;
  if (broken || !tree) {
    const what = broken ? jsonErrorInWords(broken, text) : 'it is empty';
    const line = lineAt(broken?.offset ?? 0);
    return {
      alternates: none(),
      wrong: [{ path: '', line, offset: broken?.offset ?? 0, says: `is not valid JSON: ${what}` }],
      lines,
      left,
    };
  }
  const wrong: Wrong[] = [];
  const given = JSON.parse(text) as unknown;
  const all = (typeof given === 'object' && given !== null && !Array.isArray(given) ? given : {}) as Record<
    string,
    unknown
  >;
  const mistake = (keys: readonly (string | number)[], says: string, key = false) => {
    const offset = offsetOf(tree, keys);
    wrong.push({ path: pathOf(keys), line: lineAt(offset), offset, says, ...(key ? { key } : {}) });
  };
  if (all !== given) mistake([], 'holds no object: alternates, pins and rules are wanted');
  for (const key of Object.keys(all))
    if (key !== 'alternates' && key !== 'pins' && key !== 'rules') {
      left.others[key] = all[key];
      mistake([key], 'has no meaning here: alternates, pins and rules have');
    }

  const listOf = <T>(
    list: keyof Alternates,
    schema: z.ZodObject & z.ZodType<T>,
  ): { value: T; at: number; line: number }[] => {
    const items = all[list] ?? [];
    const node = findNodeAtLocation(tree, [list]);
    if (!Array.isArray(items)) {
      mistake([list], 'is not a list');
      return [];
    }
    return items.flatMap((item: unknown, at) => {
      const itself = node?.children?.[at];
      const written = itself ? text.slice(itself.offset, itself.offset + itself.length) : '';
      const result = schema.safeParse(item);
      if (result.success) {
        if (Object.keys(item as object).some((key) => !(key in schema.shape)))
          for (const { path, says } of misfits(written, schema.strict())) mistake([list, at, ...path], says, true);
        return [{ value: result.data, at, line: lineAt(itself?.offset ?? 0) }];
      }
      for (const { path, says } of misfits(written, schema).slice(0, 3)) mistake([list, at, ...path], says);
      left[list].push(item);
      return [];
    });
  };
  const once = new Set<string>();
  const alternates = listOf('alternates', alternateEntry).flatMap(({ value, at, line }) => {
    const template = templateOf(value, value.name);
    if (once.has(template)) {
      mistake(['alternates', at, 'name'], `“${template}” is registered twice`);
      left.alternates.push(value);
      return [];
    }
    once.add(template);
    lines.alternates.push(line);
    return [value];
  });
  const rules: Rule[] = [];
  const ids = new Set<string>();
  for (const { value, at, line } of listOf('rules', ruleEntry)) {
    if (value.from !== null && value.to !== null && value.from > value.to) {
      mistake(['rules', at, 'to'], 'is before the day from which it is to hold');
      left.rules.push(value);
      continue;
    }
    const wanted = value.id ?? value.alternate;
    let id = wanted;
    for (let number = 2; ids.has(id); number++) id = `${wanted}-${number}`;
    ids.add(id);
    rules.push({ ...value, id });
    lines.rules.push(line);
  }
  const pins = listOf('pins', pinEntry).map(({ value, line }) => {
    lines.pins.push(line);
    return value;
  });
  return { alternates: { alternates, pins, rules }, wrong, lines, left };
}

const pathOf = (keys: readonly (string | number)[]): string =>
  keys.map((key, at) => (typeof key === 'number' ? `[${key}]` : at ? `.${key}` : key)).join('');

/** A mistake in a sentence, as it is said beside its line. */
export const saidWrong = ({ path, says }: Wrong): string => (path ? saidOf(path, says) : `alternates.json ${says}`);

/** Where what is named by a path stands; of the nearest thing around it, when it is missing. */
function offsetOf(tree: Node, keys: readonly (string | number)[]): number {
  for (let length = keys.length; length > 0; length--) {
    const node = findNodeAtLocation(tree, keys.slice(0, length));
    if (node) return node.offset;
  }
  return tree.offset;
}

/** Mistakes of the file as problems of the theme. */
export function checkAlternates(text: string, layer: string, wrong: readonly Wrong[]): Problem[] {
  const source = new Source('alternates.json', text, layer);
  return wrong.map((one) => {
    const end = text.indexOf('\n', one.offset);
    const to = Math.max(one.offset, end < 0 ? text.length : end);
    return problem(one.key ? 'json-key' : 'alternates', source, { from: one.offset, to }, { text: saidWrong(one) });
  });
}

const nothingLeft: ReadAlternates['left'] = { alternates: [], pins: [], rules: [], others: {} };

/** Writes the file; `left` are entries that could not be read, and stay as they are after the others. */
export function writeAlternates({ alternates, pins, rules }: Alternates, left = nothingLeft): string {
  const all = {
    alternates: [...alternates, ...left.alternates],
    pins: [...pins, ...left.pins],
    rules: [...rules.map(ruleAsJson), ...left.rules],
    ...left.others,
  };
  return `${JSON.stringify(all, null, 2)}\n`;
}

/** A rule without what goes without saying. */
function ruleAsJson({ id, kind: of, piece: inside, alternate, when, from, to, yearly, note }: Rule): object {
  return {
    id,
    kind: of,
    ...(inside === undefined ? {} : { piece: inside }),
    alternate,
    when,
    ...(from === null ? {} : { from }),
    ...(to === null ? {} : { to }),
    ...(yearly ? { yearly } : {}),
    ...(note ? { note } : {}),
  };
}

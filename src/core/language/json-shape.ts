import { findNodeAtLocation, parseTree, type Node } from 'jsonc-parser';
import { z } from 'zod';
import type { Source } from './1-parse/source';
import { fixOf } from './2-check/infer';
import { nearestOf, type Near } from './nearest';
import { problem, type Problem } from './problems';

/** What does not fit a schema in a JSON text, where it stands: offsets of the text, `to` exclusive. */
export interface Misfit {
  path: (string | number)[];
  from: number;
  to: number;
  /** Said after the path. */
  says: string;
  /** What is likely meant in place of what stands between its quotes. */
  near: Near | null;
  /** A key that has no meaning: it is passed over, and the rest serves. */
  key: boolean;
}

type Issue = z.core.$ZodIssue;
type Schema = z.core.$ZodType;
type Def = {
  type: string;
  innerType?: Schema;
  element?: Schema;
  keyType?: Schema;
  valueType?: Schema;
  options?: Schema[];
};

const defOf = (schema: Schema) => schema._zod.def as unknown as Def;

/** What a schema is within optional, nullable and default ones around it. */
function bare(schema: Schema): Schema {
  const { innerType } = defOf(schema);
  return innerType ? bare(innerType) : schema;
}

const shapeOf = (schema: Schema): Record<string, Schema> | null =>
  defOf(schema).type === 'object' ? (schema as unknown as { shape: Record<string, Schema> }).shape : null;

/** The schemas of what stands at a path: several where a union lets it be one of them. */
function within(schema: Schema, path: readonly PropertyKey[]): Schema[] {
  const here = bare(schema);
  const { type, element, valueType, options } = defOf(here);
  if (type === 'union') return (options ?? []).flatMap((one) => within(one, path));
  const [step, ...rest] = path;
  if (step === undefined) return [here];
  const next = type === 'array' ? element : type === 'record' ? valueType : shapeOf(here)?.[String(step)];
  return next ? within(next, rest) : [];
}

/** The keys that may stand in the object at a path. */
export const keysAt = (schema: Schema, path: readonly PropertyKey[]): string[] =>
  within(schema, path).flatMap((one) => {
    const { keyType } = defOf(one);
    if (keyType && defOf(keyType).type === 'enum') return (keyType as unknown as { options: string[] }).options;
    return Object.keys(shapeOf(one) ?? {});
  });

/** The texts that may stand at a path, where it is one of some. */
export const choicesAt = (schema: Schema, path: readonly PropertyKey[]): string[] =>
  within(schema, path).flatMap((one) => {
    const { type } = defOf(one);
    if (type === 'boolean') return ['true', 'false'];
    return type === 'enum' ? (one as unknown as { options: string[] }).options : [];
  });

const nouns: Record<string, string> = {
  string: 'a text in quotes',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object',
  record: 'an object',
  null: 'null',
};

/** What may stand at a path, in words; '' where that is not known. */
export const typeAt = (schema: Schema, path: readonly PropertyKey[]): string =>
  [...new Set(within(schema, path).map(inWords))].filter(Boolean).join(', or ');

function inWords(schema: Schema): string {
  const { type } = defOf(schema);
  if (type === 'enum') return `one of ${listed((schema as unknown as { options: string[] }).options)}`;
  const noun = nouns[type] ?? '';
  if (type !== 'number') return noun;
  const { minValue, maxValue, isInt } = schema as z.ZodNumber;
  const isBound = (bound: number | null): bound is number => bound !== null && Math.abs(bound) < 1e15;
  return [
    isInt ? 'a whole number' : noun,
    isBound(minValue) && `at least ${minValue}`,
    isBound(maxValue) && `at most ${maxValue}`,
  ]
    .filter(Boolean)
    .join(', ');
}

const listed = (values: readonly unknown[]) => values.map((one) => `“${String(one)}”`).join(', ');

/** What an issue says, to follow the path of what is wrong. */
export function issueInWords(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.message.includes('received undefined')
        ? 'is missing'
        : `must be ${nouns[issue.expected] ?? issue.expected}`;
    case 'invalid_value':
      return `must be one of ${listed(issue.values)}`;
    case 'too_small':
      if (issue.origin === 'string') return 'must not be empty';
      return issue.origin === 'array' ? `needs at least ${issue.minimum}` : `must be at least ${issue.minimum}`;
    case 'too_big':
      return issue.origin === 'string'
        ? `may have at most ${issue.maximum} characters`
        : `must be at most ${issue.maximum}`;
    case 'invalid_format':
      return issue.format === 'date' ? 'must be a day, as in “2026-11-24”' : issue.message;
    case 'not_multiple_of':
      return `must be a multiple of ${issue.divisor}`;
    default:
      return issue.message;
  }
}

/** Of what may be one of several, the issues of the one that comes nearest. */
function nearestIssues(issue: Issue): Issue[] {
  if (issue.code !== 'invalid_union') return [issue];
  const deepest = (issues: readonly Issue[]) => Math.max(0, ...issues.map((one) => one.path.length));
  const types = issue.errors.flatMap(([one]) =>
    one?.code === 'invalid_type' && !one.path.length ? [one.expected] : [],
  );
  const [best] = [...issue.errors].sort((a, b) => deepest(b) - deepest(a) || a.length - b.length);
  if (!best || types.length === issue.errors.length || deepest(best) === 0)
    return [
      { ...issue, code: 'custom', message: `must be ${types.map((one) => nouns[one] ?? one).join(', or ')}` } as Issue,
    ];
  return best.map((one) => ({ ...one, path: [...issue.path, ...one.path] }));
}

export const pathInWords = (path: readonly (string | number)[]): string =>
  path.reduce<string>((all, step) => all + (typeof step === 'number' ? `[${step}]` : all ? `.${step}` : step), '');

/** A path with what is wrong there: “a.b must be a number”, “a.b: there is no such page”. */
export const saidOf = (path: string, says: string): string =>
  /^(?:is|must|has|needs|may|says)\b/.test(says) ? `${path} ${says}` : `${path}: ${says}`;

/** Where a path stands; of what is missing, what is around it. */
function nodeAt(root: Node, path: readonly (string | number)[]): Node {
  for (let length = path.length; length > 0; length--) {
    const found = findNodeAtLocation(root, path.slice(0, length) as (string | number)[]);
    if (found) return found;
  }
  return root;
}

/** All that does not fit; none of a text that is not JSON. */
export function misfits(text: string, schema: z.ZodType): Misfit[] {
  const root = parseTree(text);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return [];
  }
  const read = schema.safeParse(value);
  if (read.success || !root) return [];
  return read.error.issues.flatMap(nearestIssues).flatMap((issue): Misfit[] => {
    const path = issue.path.filter((step): step is string | number => typeof step !== 'symbol');
    if (issue.code === 'unrecognized_keys') {
      const known = keysAt(schema, path);
      return issue.keys.map((name) => {
        // The key, not its value.
        const value = findNodeAtLocation(root, [...path, name]);
        const key = value?.parent?.children?.[0] ?? root;
        const near = nearestOf(name, known);
        const meant = near ? `; did you mean “${near.name}”?` : known.length ? `: ${known.join(', ')} have` : '';
        const at = { from: key.offset, to: key.offset + key.length };
        return { path: [...path, name], ...at, says: `has no meaning here${meant}`, near, key: true };
      });
    }
    const node = nodeAt(root, path);
    const given = node.type === 'string' ? String(node.value) : null;
    const near = issue.code === 'invalid_value' && given !== null ? nearestOf(given, issue.values.map(String)) : null;
    const meant = near ? `; did you mean “${near.name}”?` : '';
    const says = issueInWords(issue) + meant;
    return [{ path, from: node.offset, to: node.offset + node.length, says, near, key: false }];
  });
}

/** The same as problems of a file. */
export const shapeProblems = (source: Source, schema: z.ZodType): Problem[] =>
  misfits(source.text, schema).map(({ path, from, to, says, near, key }) => {
    const text = `${pathInWords(path) || 'The file'} ${says}`;
    const reported = problem(key ? 'json-key' : 'json-value', source, { from, to }, { text });
    const fix = fixOf(near, { from: from + 1, to: to - 1 });
    if (fix) reported.fix = fix;
    return reported;
  });

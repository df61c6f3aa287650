import { z } from 'zod';
import { specOf, type Definitions, type FactType, type FactValue, type SubjectKind } from '@/core/catalogue';

const day = z.iso.date();
const texts = z.array(z.string().max(200)).min(1).max(200);

/** One question to a subject, and the answer that is wanted. */
const leaf = z.discriminatedUnion('test', [
  z.strictObject({ ...named(), test: z.literal('is'), value: texts }),
  z.strictObject({ ...named(), test: z.enum(['begins', 'contains']), value: z.string().min(1).max(200) }),
  z.strictObject({ ...named(), test: z.enum(['at-least', 'at-most', 'equals']), value: z.number() }),
  z.strictObject({ ...named(), test: z.enum(['since', 'until']), value: day }),
  z.strictObject({ ...named(), test: z.literal('last'), value: z.int().min(1).max(3660) }),
  z.strictObject({ ...named(), test: z.enum(['filled', 'empty', 'yes', 'no']) }),
]);

function named() {
  return { fact: z.string().max(40), name: z.string().max(120).optional() };
}

export type Leaf = z.output<typeof leaf>;
export type Test = Leaf['test'];
export type Group = { all: Condition[] } | { any: Condition[] } | { not: Condition[] };
/** A condition over a subject: a question, or a group of them that hold all, any, or none. */
export type Condition = Leaf | Group;

/** Groups in groups, at most. */
const deepest = 8;

const conditionTo = (depth: number): z.ZodType<Condition> =>
  z.lazy(() => {
    const parts = z.array(depth > 0 ? conditionTo(depth - 1) : leaf).max(100);
    // Told apart by what stands in it, so that a mistake is said where it is.
    return z.unknown().transform((given, context): Condition => {
      const is = (name: string) => typeof given === 'object' && given !== null && name in given;
      const schema = is('all')
        ? z.strictObject({ all: parts })
        : is('any')
          ? z.strictObject({ any: parts })
          : is('not')
            ? z.strictObject({ not: parts })
            : leaf;
      const read = schema.safeParse(given);
      if (read.success) return read.data as Condition;
      for (const { path, message } of read.error.issues)
        context.issues.push({ code: 'custom', path, message, input: given });
      return z.NEVER;
    });
  });

export const condition = conditionTo(deepest);

/** What holds for every subject. */
export const always: Condition = { all: [] };

export type GroupName = 'all' | 'any' | 'not';

/** The name and parts of a group; null for a question. */
export function groupOf(of: Condition): { name: GroupName; parts: Condition[] } | null {
  if ('all' in of) return { name: 'all', parts: of.all };
  if ('any' in of) return { name: 'any', parts: of.any };
  return 'not' in of ? { name: 'not', parts: of.not } : null;
}

/** Every question of a condition. */
export function* leavesOf(of: Condition): Generator<Leaf> {
  const group = groupOf(of);
  if (!group) yield of as Leaf;
  else for (const part of group.parts) yield* leavesOf(part);
}

/** The tests that fit a type of fact, the usual one first. */
export const testsOf: Record<FactType, readonly Test[]> = {
  text: ['is', 'contains', 'begins', 'filled', 'empty'],
  set: ['is', 'filled', 'empty'],
  number: ['at-least', 'at-most', 'equals', 'filled', 'empty'],
  money: ['at-least', 'at-most', 'equals', 'filled', 'empty'],
  day: ['since', 'until', 'last', 'filled', 'empty'],
  flag: ['yes', 'no'],
};

/** Why a question cannot be asked: a sentence; null when it can. */
export function wrongLeaf(
  kind: SubjectKind,
  one: Leaf,
  definitions: Definitions,
): { code: 'gone' | 'type'; says: string } | null {
  const spec = specOf(kind, one, definitions);
  if (!spec) {
    const says =
      one.fact === 'field'
        ? `There is no custom field “${one.name ?? ''}” of a ${kind} any more`
        : `A ${kind} has no “${one.fact}”${one.fact === 'attribute' ? ' without a name' : ''}`;
    return { code: 'gone', says };
  }
  if (testsOf[spec.type].includes(one.test)) return null;
  const what = one.fact === 'field' ? `The custom field “${one.name ?? ''}”` : `“${one.fact}”`;
  return {
    code: 'type',
    says: `${what} is a ${spec.type === 'set' ? 'list' : spec.type} now: it cannot be asked whether it ${words[one.test]}`,
  };
}

const words: Record<Test, string> = {
  is: 'is one of some texts',
  begins: 'begins with a text',
  contains: 'contains a text',
  'at-least': 'is at least a number',
  'at-most': 'is at most a number',
  equals: 'equals a number',
  since: 'is on a day or later',
  until: 'is on a day or earlier',
  last: 'is in the last days',
  filled: 'is filled',
  empty: 'is empty',
  yes: 'is yes',
  no: 'is no',
};

/** Texts are compared without regard to capitals and to the spaces around them, in one Unicode form (NFC). */
export const fold = (text: string): string => text.normalize('NFC').trim().toLowerCase();

/** A day some days before another, both as ISO 8601. */
export function dayBefore(day: string, days: number): string {
  return new Date(Date.parse(`${day}T00:00:00Z`) - days * 86_400_000).toISOString().slice(0, 10);
}

const isEmpty = (value: FactValue): boolean =>
  value === null || value === '' || (Array.isArray(value) && value.length === 0);

/** What a question asks of a text, given folded; null for one that asks no text. */
export function textTest(one: Leaf): ((folded: string) => boolean) | null {
  if (one.test === 'is') {
    const wanted = new Set(one.value.map(fold));
    return (folded) => folded !== '' && wanted.has(folded);
  }
  if (one.test !== 'begins' && one.test !== 'contains') return null;
  const wanted = fold(one.value);
  return one.test === 'begins' ? (folded) => folded.startsWith(wanted) : (folded) => folded.includes(wanted);
}

/**
 * The question as a test of a value. An empty value answers only “is empty” and “no”. `last` counts today as the first of
 * its days.
 */
export function testOf(one: Leaf, today: string): (value: FactValue) => boolean {
  const text = textTest(one);
  if (text)
    return (value) =>
      typeof value === 'string'
        ? text(fold(value))
        : Array.isArray(value) && value.some((item: string) => text(fold(item)));
  switch (one.test) {
    case 'at-least':
      return (value) => typeof value === 'number' && value >= one.value;
    case 'at-most':
      return (value) => typeof value === 'number' && value <= one.value;
    case 'equals':
      return (value) => value === one.value;
    case 'since':
      return (value) => typeof value === 'string' && value >= one.value;
    case 'until':
      return (value) => typeof value === 'string' && value !== '' && value <= one.value;
    case 'last': {
      const from = dayBefore(today, one.value - 1);
      return (value) => typeof value === 'string' && value >= from && value <= today;
    }
    case 'filled':
      return (value) => !isEmpty(value);
    case 'empty':
      return isEmpty;
    case 'yes':
      return (value) => value === true;
    case 'no':
      return (value) => value !== true;
    default:
      return () => false;
  }
}

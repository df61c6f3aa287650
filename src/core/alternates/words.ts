import type { Season } from './season';
import { isFieldSubject } from '@/core/catalogue';
import { groupOf, type Condition, type Leaf } from './condition';
import { specOf, type Definitions, type FactSpec, type FactValue, type SubjectKind } from '@/core/catalogue';

/** How values are written: money and days in the language of the workbench, slugs by the names behind them. */
export interface Wording {
  money(minor: number): string;
  day(iso: string): string;
  /** Name of a tag, category or brand by its slug; the slug itself where there is none. */
  name(of: NonNullable<FactSpec['of']>, slug: string): string;
  definitions: Definitions;
}

const tests: Record<Leaf['test'], string> = {
  is: 'is',
  begins: 'begins with',
  contains: 'contains',
  'at-least': 'at least',
  'at-most': 'at most',
  equals: 'is',
  since: 'on or after',
  until: 'on or before',
  last: 'in the last',
  filled: 'is filled',
  empty: 'is empty',
  yes: 'is yes',
  no: 'is no',
};

const either = (items: readonly string[]): string =>
  items.length < 2 ? (items[0] ?? '') : `${items.slice(0, -1).join(', ')} or ${items[items.length - 1] as string}`;

/** Unit of a custom field's number, with a space before it. */
function unitOf(kind: SubjectKind, leaf: Leaf, { definitions }: Wording): string {
  if (leaf.fact !== 'field' || !isFieldSubject(kind)) return '';
  const unit = definitions(kind).find(({ key }) => key === leaf.name)?.unit;
  return unit ? ` ${unit}` : '';
}

/** A question in words: “price at least £20.00”. */
export function sayLeaf(kind: SubjectKind, leaf: Leaf, words: Wording): string {
  const spec = specOf(kind, leaf, words.definitions);
  const label = spec?.label ?? (leaf.name ? `${leaf.fact} ${leaf.name}` : leaf.fact);
  const test = tests[leaf.test];
  switch (leaf.test) {
    case 'is': {
      const named = leaf.value.map((one) => (spec?.of && spec.of !== 'type' ? words.name(spec.of, one) : one));
      const below = spec?.fact === 'category' ? ' or below' : '';
      return spec?.fact === 'below' ? `below ${either(named)}` : `${label} ${test} ${either(named)}${below}`;
    }
    case 'begins':
    case 'contains':
      return `${label} ${test} “${leaf.value}”`;
    case 'at-least':
    case 'at-most':
    case 'equals':
      return `${label} ${test} ${spec?.type === 'money' ? words.money(leaf.value) : leaf.value}${unitOf(kind, leaf, words)}`;
    case 'since':
    case 'until':
      return `${label} ${test} ${words.day(leaf.value)}`;
    case 'last':
      return `${label} ${test} ${leaf.value} days`;
    default:
      return `${label} ${test}`;
  }
}

/** A condition in words; a group within one stands in brackets. */
export function sayCondition(kind: SubjectKind, of: Condition, words: Wording): string {
  const say = (part: Condition, inside: boolean): string => {
    const group = groupOf(part);
    if (!group) return sayLeaf(kind, part as Leaf, words);
    if (group.name === 'all' && !group.parts.length) return 'always';
    if (!group.parts.length) return group.name === 'any' ? 'never' : 'always';
    const many = group.parts.length > 1;
    const joined = group.parts
      .map((one) => say(one, many || group.name === 'not'))
      .join(group.name === 'all' ? ' and ' : ' or ');
    if (group.name === 'not') return `not ${many ? `(${joined})` : joined}`;
    return inside && many ? `(${joined})` : joined;
  };
  return say(of, false);
}

/** A value that decided, in words. */
export function sayValue(
  kind: SubjectKind,
  leaf: Leaf,
  spec: FactSpec | null,
  value: FactValue,
  words: Wording,
): string {
  if (value === null || value === '') return 'none';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number')
    return spec?.type === 'money' ? words.money(value) : `${value}${unitOf(kind, leaf, words)}`;
  const named = (one: string) => (spec?.of && spec.of !== 'type' ? words.name(spec.of, one) : one);
  if (typeof value === 'string') {
    if (spec?.type === 'day') return words.day(value);
    const text = named(value);
    return text.length > 80 ? `${text.slice(0, 79)}…` : text;
  }
  return value.length ? value.map(named).join(', ') : 'none';
}

/** The days on which a rule is in force, in words; '' for always. */
export function sayDays({ from, to, yearly }: Season, { day }: Pick<Wording, 'day'>): string {
  if (yearly && from !== null && to !== null) return `${day(from)} to ${day(to)}, and so every year`;
  if (from !== null && to !== null) return from === to ? `on ${day(from)}` : `${day(from)} to ${day(to)}`;
  if (from !== null) return `from ${day(from)}`;
  return to === null ? '' : `until ${day(to)}`;
}

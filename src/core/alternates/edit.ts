import { z } from 'zod';
import {
  alternateEntry,
  pieceName,
  pinEntry,
  readAlternates,
  ruleEntry,
  sameTarget,
  templateOf,
  writeAlternates,
  type Alternates,
  type Rule,
} from './alternates';
import { groupOf, type Condition, type Leaf } from './condition';

const target = { kind: alternateEntry.shape.kind, piece: alternateEntry.shape.piece };
const rule = z.strictObject({ ...ruleEntry.shape, id: z.string().min(1).max(80) });

/** Something done to the assignments of a theme. What was seen before is told, so that nothing is done to what changed since. */
export const alternatesEdit = z.discriminatedUnion('do', [
  /** Gives subjects an alternate by pins, or (null) removes their pins. */
  z.strictObject({
    do: z.literal('pin'),
    ...target,
    slugs: z.array(pinEntry.shape.slug).min(1, 'Choose at least one page').max(20_000),
    alternate: pinEntry.shape.alternate.nullable(),
  }),
  /** Replaces the rule with the same id, or adds the rule at the end. `was`: the rule as it was last seen; null for a new one. */
  z.strictObject({ do: z.literal('put-rule'), rule, was: rule.nullable() }),
  z.strictObject({ do: z.literal('remove-rule'), id: z.string() }),
  /** The order of the rules (or alternates) of a target, by ids (names); `seen` is the order that was moved in. */
  z.strictObject({
    do: z.literal('order'),
    ...target,
    of: z.enum(['rules', 'alternates']),
    names: z.array(z.string()).max(2000),
    seen: z.array(z.string()).max(2000),
  }),
  /** Takes a text out of what a rule asks for; what is left without texts goes, and a rule that asks for nothing more. */
  z.strictObject({
    do: z.literal('drop-value'),
    id: z.string(),
    fact: z.string(),
    name: z.string().optional(),
    value: z.string(),
  }),
  z.strictObject({
    do: z.literal('describe'),
    ...target,
    name: z.string(),
    label: alternateEntry.shape.label,
    note: alternateEntry.shape.note,
    types: alternateEntry.shape.types,
  }),
  /** Of several pins of one subject, this one stays. */
  z.strictObject({ do: z.literal('keep-pin'), ...target, slug: z.string(), alternate: pinEntry.shape.alternate }),
]);

export type AlternatesEdit = z.output<typeof alternatesEdit>;

/** An edit that cannot be made as things stand now: says why. */
export class EditRefused extends Error {
  override name = 'EditRefused';
  constructor(
    readonly code: 'changed' | 'gone' | 'taken',
    message: string,
  ) {
    super(message);
  }
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
/** A rule with its parts in one order, to be compared. */
const plain = ({ id, kind, piece, alternate, when, from, to, yearly, note }: Rule) => [
  id,
  kind,
  piece ?? null,
  alternate,
  when,
  from,
  to,
  yearly ?? false,
  note,
];

/** The assignments with an edit made; what they were stays as it was. */
export function edited(all: Alternates, edit: AlternatesEdit): Alternates {
  switch (edit.do) {
    case 'pin': {
      const slugs = new Set(edit.slugs);
      const pins = all.pins.filter((pin) => !(sameTarget(pin, edit) && slugs.has(pin.slug)));
      const { kind, piece, alternate } = edit;
      if (alternate !== null)
        pins.push(...[...slugs].map((slug) => ({ kind, ...(piece ? { piece } : {}), slug, alternate })));
      return { ...all, pins };
    }
    case 'keep-pin': {
      let found = false;
      const pins = all.pins.filter((pin) => {
        if (!sameTarget(pin, edit) || pin.slug !== edit.slug) return true;
        const stays = !found && pin.alternate === edit.alternate;
        found ||= stays;
        return stays;
      });
      return { ...all, pins };
    }
    case 'put-rule': {
      const rule = edit.rule as Rule;
      const now = all.rules.find(({ id }) => id === rule.id);
      if (edit.was === null) {
        if (now) throw new EditRefused('taken', `There is a rule “${rule.id}” already.`);
        return { ...all, rules: [...all.rules, rule] };
      }
      if (!now)
        throw new EditRefused(
          'gone',
          'This rule was removed meanwhile. What you set is kept here: save it as a new rule, or leave it.',
        );
      if (!same(plain(now), plain(edit.was as Rule)))
        throw new EditRefused(
          'changed',
          'This rule was changed from elsewhere meanwhile. What you set is kept here: save it over that, or leave it.',
        );
      return { ...all, rules: all.rules.map((one) => (one.id === rule.id ? rule : one)) };
    }
    case 'remove-rule': {
      if (!all.rules.some(({ id }) => id === edit.id)) throw new EditRefused('gone', 'This rule was removed already.');
      return { ...all, rules: all.rules.filter(({ id }) => id !== edit.id) };
    }
    case 'order':
      return edit.of === 'rules'
        ? { ...all, rules: ordered(all.rules, edit, (one) => one.id) }
        : { ...all, alternates: ordered(all.alternates, edit, (one) => one.name) };
    case 'drop-value':
      return { ...all, rules: all.rules.flatMap((one) => (one.id === edit.id ? (without(one, edit) ?? []) : one)) };
    case 'describe': {
      const { label, note, types } = edit;
      const at = all.alternates.findIndex((one) => sameTarget(one, edit) && one.name === edit.name);
      if (at < 0) throw new EditRefused('gone', `There is no alternate “${templateOf(edit, edit.name)}” any more.`);
      refuseLabel(all, edit, label, edit.name);
      return {
        ...all,
        alternates: all.alternates.map((one, place) => (place === at ? { ...one, label, note, types } : one)),
      };
    }
  }
}

/** Labels are told apart without regard to capitals. */
export function refuseLabel(
  all: Alternates,
  of: Parameters<typeof sameTarget>[0],
  label: string,
  name: string | null,
): void {
  const twin = all.alternates.find(
    (one) => sameTarget(one, of) && one.name !== name && one.label.toLowerCase() === label.trim().toLowerCase(),
  );
  if (twin)
    throw new EditRefused('taken', `The label “${label}” is taken by “${templateOf(of, twin.name)}”: choose another.`);
}

/** Those of a target in a new order, at the places that they had among the others. */
function ordered<T extends Parameters<typeof sameTarget>[0]>(
  list: readonly T[],
  edit: Extract<AlternatesEdit, { do: 'order' }>,
  nameOf: (one: T) => string,
): T[] {
  const own = list.filter((one) => sameTarget(one, edit));
  if (!same(own.map(nameOf), edit.seen))
    throw new EditRefused(
      'changed',
      'The order was changed from elsewhere meanwhile. It is shown as it is now: move it again if you still want to.',
    );
  if (!same([...edit.names].sort(), [...edit.seen].sort()))
    throw new EditRefused('changed', 'The new order does not hold the same entries as the old one.');
  const byName = new Map(own.map((one) => [nameOf(one), one]));
  const next = edit.names.map((name) => byName.get(name) as T);
  return list.map((one) => (sameTarget(one, edit) ? (next.shift() as T) : one));
}

/** A rule without a text that it asks for; null when nothing is left to ask. */
function without(rule: Rule, drop: { fact: string; name?: string | undefined; value: string }): Rule | null {
  const trim = (of: Condition): Condition | null => {
    const group = groupOf(of);
    if (group) {
      const parts = group.parts.map(trim).filter((part) => part !== null);
      if (!parts.length && group.parts.length) return null;
      return { [group.name]: parts } as Condition;
    }
    const leaf = of as Leaf;
    if (leaf.test !== 'is' || leaf.fact !== drop.fact || leaf.name !== drop.name) return leaf;
    const value = leaf.value.filter((one) => one !== drop.value);
    return value.length ? { ...leaf, value } : null;
  };
  const when = trim(rule.when);
  return when && { ...rule, when };
}

/** Adds an alternate to the list, after those of its target. */
export function registered(all: Alternates, entry: Alternates['alternates'][number]): Alternates {
  refuseLabel(all, entry, entry.label, null);
  return { ...all, alternates: [...all.alternates, entry] };
}

/** Gives an alternate another name: its pins and rules follow. */
export function renamed(all: Alternates, of: Parameters<typeof sameTarget>[0], from: string, to: string): Alternates {
  const follow = <T extends { alternate: string } & Parameters<typeof sameTarget>[0]>(one: T): T =>
    sameTarget(one, of) && one.alternate === from ? { ...one, alternate: to } : one;
  return {
    alternates: all.alternates.map((one) => (sameTarget(one, of) && one.name === from ? { ...one, name: to } : one)),
    pins: all.pins.map(follow),
    rules: all.rules.map(follow),
  };
}

/**
 * The same for a template that gets another name: an alternate's, or that of a piece that has alternates. Null: it is
 * neither, or goes where it can be none.
 */
export function followed(all: Alternates, from: string, to: string): Alternates | null {
  const { alternates, pins, rules } = all;
  if ([...alternates, ...pins, ...rules].some(({ piece }) => piece === from)) {
    if (!pieceName.safeParse(to).success) return null;
    const follow = <T extends { piece?: string | undefined }>(one: T): T =>
      one.piece === from ? { ...one, piece: to } : one;
    return { alternates: alternates.map(follow), pins: pins.map(follow), rules: rules.map(follow) };
  }
  const one = alternates.find((one) => templateOf(one, one.name) === from);
  const folder = from.slice(0, from.lastIndexOf('/') + 1);
  const name = to.slice(folder.length);
  if (!one || !to.startsWith(folder) || name.includes('/') || name === 'default') return null;
  return renamed(all, one, one.name, name);
}

/** The same for the text of `alternates.json`; null: it stays as it is. */
export function followedIn(text: string, from: string, to: string): string | null {
  const { alternates, left } = readAlternates(text);
  const now = followed(alternates, from, to);
  return now && writeAlternates(now, left);
}

/** Takes an alternate out, with its pins and rules. */
export function retired(all: Alternates, of: Parameters<typeof sameTarget>[0], name: string): Alternates {
  const stays = (one: { alternate: string } & Parameters<typeof sameTarget>[0]) =>
    !(sameTarget(one, of) && one.alternate === name);
  return {
    alternates: all.alternates.filter((one) => !(sameTarget(one, of) && one.name === name)),
    pins: all.pins.filter(stays),
    rules: all.rules.filter(stays),
  };
}

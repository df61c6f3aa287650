import {
  sameTarget,
  targetKey,
  templateOf,
  type Alternates,
  type ReadAlternates,
  type Rule,
  type Target,
} from './alternates';
import { leavesOf, type Condition } from './condition';
import type { Coverage } from './coverage';
import type { AlternatesEdit } from './edit';
import { specOf, type Definitions, type FactSpec } from '@/core/catalogue';
import { sayCondition, type Wording } from './words';

/** What can be wrong with assignments, each with what it means. */
export const assignmentProblems = {
  'rule-nothing': 'A rule holds for nothing',
  'rule-value': 'A rule names something that is gone',
  'rule-field': 'A rule asks for a custom field that was removed, or changed its type',
  'rule-shadowed': 'A rule is always shadowed by those before it',
  'pin-gone': 'A pin to what is gone',
  'pin-twice': 'Two pins for one subject',
  'alternate-unused': 'An alternate that nobody gets',
  'alternate-unmeant': 'An alternate given to a type it is not meant for',
  'alternate-file': 'A file missing',
  'alternate-unregistered': 'An assignment to what is not registered',
} as const;

export type AssignmentProblemCode = keyof typeof assignmentProblems;

/** What fixes a problem: an edit of the assignments, or a step that someone has to take. */
export type AssignmentFix =
  | { title: string; edit: AlternatesEdit }
  | { title: string; retire: { kind: Target['kind']; piece?: string | undefined; name: string } }
  | { title: string; makeFile: { kind: Target['kind']; piece?: string | undefined; name: string } }
  | { title: string; openRule: string };

export interface AssignmentProblem {
  code: AssignmentProblemCode;
  target: Target;
  /** Line in `alternates.json`, from 1. */
  line: number;
  says: string;
  fixes: AssignmentFix[];
}

/** What of the catalogue the rules may name, and how it is called. */
export interface Known {
  has(of: NonNullable<FactSpec['of']>, slug: string): boolean;
  words: Wording;
  definitions: Definitions;
  /** Name of a subject. */
  nameOf(target: Target, slug: string): string;
  exists(template: string): boolean;
}

const count = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;

/** Everything that is wrong with the assignments of a theme, given who gets what: `coverages` of each target that has some. */
export function problemsOf(
  { alternates: all, lines }: Pick<ReadAlternates, 'alternates' | 'lines'>,
  coverages: readonly Coverage[],
  known: Known,
): AssignmentProblem[] {
  const found: AssignmentProblem[] = [];
  const labelOf = (target: Target, name: string) =>
    name === 'default'
      ? 'default'
      : (all.alternates.find((one) => sameTarget(one, target) && one.name === name)?.label ?? name);
  const lineOfRule = (rule: Rule) => lines.rules[all.rules.indexOf(rule)] ?? 1;
  const saidRule = (rule: Rule) =>
    `“${labelOf(rule, rule.alternate)}” by the rule “${sayCondition(rule.kind, rule.when, known.words)}”`;
  const add = (code: AssignmentProblemCode, target: Target, line: number, says: string, fixes: AssignmentFix[]) =>
    found.push({ code, target: bare(target), line, says, fixes });
  const removal = (rule: Rule): AssignmentFix => ({
    title: 'Remove the rule',
    edit: { do: 'remove-rule', id: rule.id },
  });

  for (const [at, one] of all.alternates.entries()) {
    const template = templateOf(one, one.name);
    if (known.exists(template)) continue;
    add(
      'alternate-file',
      one,
      lines.alternates[at] ?? 1,
      `The file ${template}.html of “${one.label}” is missing: what is assigned to it goes on to the next assignment, in the end to default`,
      [
        { title: 'Make the file from default', makeFile: { ...bare(one), name: one.name } },
        { title: `Retire “${one.label}”`, retire: { ...bare(one), name: one.name } },
      ],
    );
  }

  const seen = new Map<string, string>();
  for (const [at, pin] of all.pins.entries()) {
    const line = lines.pins[at] ?? 1;
    const key = `${targetKey(pin)} ${pin.slug}`;
    const name = known.nameOf(pin, pin.slug);
    const first = seen.get(key);
    if (first !== undefined) {
      const choices = [...new Set([first, pin.alternate])];
      add(
        'pin-twice',
        pin,
        line,
        `${name} is pinned twice: to “${labelOf(pin, first)}”, which counts, and to “${labelOf(pin, pin.alternate)}”`,
        choices.map((alternate) => ({
          title: `Keep “${labelOf(pin, alternate)}”`,
          edit: { do: 'keep-pin' as const, ...bare(pin), slug: pin.slug, alternate },
        })),
      );
      continue;
    }
    seen.set(key, pin.alternate);
    const table = coverages.find(({ ask }) => sameTarget(ask.target, pin))?.ask.table;
    const unpin: AssignmentFix = {
      title: 'Remove the pin',
      edit: { do: 'pin', ...bare(pin), slugs: [pin.slug], alternate: null },
    };
    if (table && !table.placesOf(pin.slug).length)
      add(
        'pin-gone',
        pin,
        line,
        `There is no ${pin.kind} “${pin.slug}” any more, which is pinned to “${labelOf(pin, pin.alternate)}”`,
        [unpin],
      );
    else if (!registeredIn(all, pin) && !known.exists(templateOf(pin, pin.alternate)))
      add('alternate-unregistered', pin, line, `${name} is pinned to “${pin.alternate}”, which there is not`, [unpin]);
  }

  for (const rule of all.rules) {
    if (!registeredIn(all, rule) && !known.exists(templateOf(rule, rule.alternate)))
      add('alternate-unregistered', rule, lineOfRule(rule), `A rule gives “${rule.alternate}”, which there is not`, [
        removal(rule),
      ]);
  }
  for (const coverage of coverages) {
    const { target } = coverage.ask;
    for (const { rule, wrong, idle, holds, decides } of coverage.rules) {
      const line = lineOfRule(rule);
      const open: AssignmentFix = { title: 'Change the rule…', openRule: rule.id };
      if (wrong !== null) {
        add(
          'rule-field',
          target,
          line,
          `${wrong}. The rule that gives “${labelOf(rule, rule.alternate)}” is left out while it asks for it`,
          [open, removal(rule)],
        );
        continue;
      }
      const gone = goneIn(rule, known);
      const drops = gone.map(({ of, fact, name, value }): AssignmentFix => ({
        title:
          holds === 0 && onlyAsksFor(rule.when, value)
            ? `Remove the rule: it asks for nothing but ${of} “${value}”`
            : `Take ${of} “${value}” out of the rule`,
        edit: { do: 'drop-value', id: rule.id, fact, name, value },
      }));
      const because = gone.length
        ? `: ${gone.map(({ of, value }) => `there is no ${of} “${value}” any more`).join(', ')}`
        : '';
      if (holds === 0)
        add(
          'rule-nothing',
          target,
          line,
          `${saidRule(rule)} holds for nothing${because}`,
          gone.length ? [...drops, open] : [open, removal(rule)],
        );
      else if (gone.length)
        add('rule-value', target, line, `${saidRule(rule)} asks for what is gone${because}`, [...drops, open]);
      else if (decides === 0 && !idle && known.exists(templateOf(rule, rule.alternate))) {
        const takers = takersOf(coverage, rule);
        const first = takers[0]?.rule;
        // Before one that gives the same it would change nothing; before one that it leaves nobody, the other way round.
        const at = takers.findIndex((one) => one.rule.alternate !== rule.alternate);
        const other = takers.slice(at).every((one) => one.keeps) ? takers[at]?.rule : undefined;
        const seen = coverage.rules.map((one) => one.rule.id);
        const names = seen.filter((id) => id !== rule.id);
        if (other) names.splice(names.indexOf(other.id), 0, rule.id);
        add(
          'rule-shadowed',
          target,
          line,
          `${saidRule(rule)} gives nobody anything: all ${holds} are taken before it${first ? `, by ${saidRule(first)}` : ' by pins'}`,
          [
            ...(other
              ? [
                  {
                    title: `Move it before “${labelOf(other, other.alternate)}”`,
                    edit: { do: 'order' as const, ...bare(target), of: 'rules' as const, names, seen },
                  },
                ]
              : []),
            removal(rule),
          ],
        );
      }
    }
  }

  for (const [at, one] of all.alternates.entries()) {
    const template = templateOf(one, one.name);
    if (!known.exists(template)) continue;
    const coverage = coverages.find(({ ask }) => sameTarget(ask.target, one));
    const counts = coverage?.counts() ?? [];
    const got =
      coverage?.ways.reduce((sum, way, number) => sum + (way.template === template ? (counts[number] ?? 0) : 0), 0) ??
      0;
    const line = lines.alternates[at] ?? 1;
    const waiting = coverage?.rules.some(({ rule, idle }) => idle && rule.alternate === one.name) ?? false;
    if (got === 0 && !waiting)
      add('alternate-unused', one, line, `Nobody gets “${one.label}” (${template})`, [
        { title: `Retire “${one.label}”`, retire: { ...bare(one), name: one.name } },
      ]);
    if (coverage && got > 0) unmeant(coverage, one, line);
  }
  return found.sort((a, b) => a.line - b.line);

  /** Products of other types than an alternate is meant for, that get it. */
  function unmeant(coverage: Coverage, one: Alternates['alternates'][number], line: number): void {
    if (one.kind !== 'product' || !one.types.length) return;
    const { table } = coverage.ask;
    const template = templateOf(one, one.name);
    const others = new Map<string, number[]>();
    for (let place = 0; place < table.size; place++) {
      if (coverage.wayOf(place).template !== template) continue;
      const type = String(table.factsAt(place)({ fact: 'type' }) ?? '');
      if (one.types.includes(type)) continue;
      const list = others.get(type);
      if (list) list.push(place);
      else others.set(type, [place]);
    }
    for (const [type, places] of others) {
      const slugs = places.map((place) => table.slugs[place] as string);
      const pinned = slugs.filter((_, at) => coverage.wayOf(places[at] as number).because === 'pin');
      const rules = [...new Set(places.map((place) => coverage.wayOf(place).rule))].filter((id) => id !== null);
      const names = slugs
        .slice(0, 3)
        .map((slug) => known.nameOf(one, slug))
        .join(', ');
      const narrowed = rules.flatMap((id): AssignmentFix[] => {
        const rule = all.rules.find((given) => given.id === id);
        if (!rule) return [];
        const when: Condition = {
          all: [{ fact: 'type', test: 'is', value: one.types }, ...('all' in rule.when ? rule.when.all : [rule.when])],
        };
        return [
          {
            title: `Narrow the rule to ${one.types.join(', ')}`,
            edit: { do: 'put-rule', rule: { ...rule, when }, was: rule },
          },
        ];
      });
      add(
        'alternate-unmeant',
        one,
        line,
        `“${one.label}” is meant for ${one.types.join(', ')}, and ${count(slugs.length, 'product')} of ${type ? `type ${type}` : 'no type'} ${slugs.length === 1 ? 'gets' : 'get'} it: ${names}${slugs.length > 3 ? '…' : ''}`,
        [
          ...(type
            ? [
                {
                  title: `It is meant for ${type} too`,
                  edit: {
                    do: 'describe' as const,
                    ...bare(one),
                    name: one.name,
                    label: one.label,
                    note: one.note,
                    types: [...one.types, type],
                  },
                },
              ]
            : []),
          ...(pinned.length
            ? [
                {
                  title: pinned.length === 1 ? 'Remove the pin' : `Remove ${pinned.length} pins`,
                  edit: { do: 'pin' as const, ...bare(one), slugs: pinned, alternate: null },
                },
              ]
            : []),
          ...narrowed,
        ],
      );
    }
  }
}

const bare = ({ kind, piece }: Target): Target => (piece === undefined ? { kind } : { kind, piece });

const registeredIn = (all: Alternates, one: Target & { alternate: string }): boolean =>
  one.alternate === 'default' || all.alternates.some((other) => sameTarget(other, one) && other.name === one.alternate);

/** What a rule asks for and the catalogue has no more: tags, categories, brands, types. */
function goneIn(rule: Rule, known: Known): { of: string; fact: string; name: string | undefined; value: string }[] {
  return [...leavesOf(rule.when)].flatMap((leaf) => {
    const of = specOf(rule.kind, leaf, known.definitions)?.of;
    if (!of || leaf.test !== 'is') return [];
    return leaf.value
      .filter((value) => !known.has(of, value))
      .map((value) => ({ of, fact: leaf.fact, name: leaf.name, value }));
  });
}

/** Whether a condition would be left without questions if a text were taken out. */
const onlyAsksFor = (of: Condition, value: string): boolean =>
  [...leavesOf(of)].every((leaf) => leaf.test === 'is' && leaf.value.every((one) => one === value));

/**
 * The rules that decide for those whom a rule holds for, in their order, and whether they decide for others too; none
 * where pins take them all.
 */
function takersOf(coverage: Coverage, rule: Rule): { rule: Rule; keeps: boolean }[] {
  const taken = new Map<string, number>();
  for (const place of coverage.heldBy(rule.id)?.members() ?? []) {
    const by = coverage.wayOf(place).rule;
    if (by !== null) taken.set(by, (taken.get(by) ?? 0) + 1);
  }
  return coverage.rules.flatMap(({ rule: one, decides }) => {
    const count = taken.get(one.id);
    return count === undefined ? [] : [{ rule: one, keeps: decides > count }];
  });
}

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { templateOf, type Alternates, type Pin, type Rule, type Target } from './alternates';
import { chooser } from './choose';
import type { Condition } from './condition';
import { cover, type Coverage } from './coverage';
import { edited } from './edit';
import { problemsOf, type AssignmentProblem, type AssignmentProblemCode, type Known } from './problems';
import { definitions, entry, factsOf, is, rule, tableOf, type Row } from './testing/rows';

const today = '2026-11-26';
const product: Target = { kind: 'product' };
const rows: Row[] = [
  { slug: 'bow', type: 'shackle', tag: ['load-rated', 'deck'], price: 2400, 'field load': 12 },
  { slug: 'dee', type: 'shackle', tag: ['load-rated'], price: 1800 },
  { slug: 'hemp', type: 'rope', tag: ['deck'], price: 420 },
  { slug: 'cotton', type: 'cord', tag: [], price: null },
];
const tags = ['load-rated', 'deck'];
const files = new Set(['product/default', 'product/rated', 'product/cut']);

const known: Known = {
  has: (of, slug) =>
    of === 'tag' ? tags.includes(slug) : of === 'type' ? rows.some((row) => row['type'] === slug) : false,
  words: {
    money: (minor) => `£${(minor / 100).toFixed(2)}`,
    day: (iso) => iso,
    name: (_, slug) => slug,
    definitions,
  },
  definitions,
  nameOf: (_, slug) => slug,
  exists: (template) => files.has(template),
};

const covered = (alternates: Alternates): Coverage =>
  cover({ alternates, target: product, table: tableOf(rows), exists: known.exists, today, definitions });

/** Every entry on a line of its own, in the order of the file: alternates, pins, rules. */
function told(alternates: Alternates): AssignmentProblem[] {
  let line = 0;
  const counted = (list: readonly unknown[]) => list.map(() => ++line);
  const lines = {
    alternates: counted(alternates.alternates),
    pins: counted(alternates.pins),
    rules: counted(alternates.rules),
  };
  return problemsOf({ alternates, lines }, [covered(alternates)], known);
}

const meant = (name: string, ...types: string[]) => entry(name, { label: name.toUpperCase(), types });
const pin = (slug: string, alternate: string): Pin => ({ kind: 'product', slug, alternate });
const tagged = (...value: string[]) => is('tag', ...value);
const typed = (...value: string[]) => is('type', ...value);

describe('each problem of assignments', () => {
  const rated = meant('rated');
  const cut = meant('cut');
  const table: {
    name: string;
    given: Partial<Alternates>;
    /** Code and line of each. */
    found: [AssignmentProblemCode, number][];
    says: RegExp;
    /** Titles of what fixes the first. */
    fixes: string[];
  }[] = [
    {
      name: 'a rule that holds for nothing',
      given: { alternates: [rated], rules: [rule('a', 'rated', { fact: 'price', test: 'at-least', value: 9000 })] },
      found: [
        ['alternate-unused', 1],
        ['rule-nothing', 2],
      ],
      says: /Nobody gets “RATED”/,
      fixes: ['Retire “RATED”'],
    },
    {
      name: 'one that asks for a tag that is gone, and for nothing else',
      given: {
        alternates: [rated],
        rules: [rule('a', 'rated', tagged('retired')), rule('b', 'rated', tagged('deck'))],
      },
      found: [['rule-nothing', 2]],
      says: /“RATED” by the rule “tag is retired” holds for nothing: there is no tag “retired” any more/,
      fixes: ['Remove the rule: it asks for nothing but tag “retired”', 'Change the rule…'],
    },
    {
      name: 'one that asks for a tag that is gone, among others',
      given: { alternates: [rated], rules: [rule('a', 'rated', tagged('retired', 'deck'))] },
      found: [['rule-value', 2]],
      says: /asks for what is gone: there is no tag “retired” any more/,
      fixes: ['Take tag “retired” out of the rule', 'Change the rule…'],
    },
    {
      name: 'one that asks for a field that was removed',
      given: { alternates: [], rules: [rule('a', 'default', { fact: 'field', name: 'gone', test: 'filled' })] },
      found: [['rule-field', 1]],
      says: /There is no custom field “gone” of a product any more. The rule that gives “default” is left out/,
      fixes: ['Change the rule…', 'Remove the rule'],
    },
    {
      name: 'one that asks for a field that changed its type',
      given: { rules: [rule('a', 'default', { fact: 'field', name: 'load', test: 'is', value: ['12'] })] },
      found: [['rule-field', 1]],
      says: /The custom field “load” is a number now: it cannot be asked whether it is one of some texts/,
      fixes: ['Change the rule…', 'Remove the rule'],
    },
    {
      name: 'one that is shadowed by another',
      given: { alternates: [rated, cut], rules: [rule('a', 'rated', tagged('deck')), rule('b', 'cut', typed('rope'))] },
      found: [
        ['alternate-unused', 2],
        ['rule-shadowed', 4],
      ],
      says: /Nobody gets “CUT”/,
      fixes: ['Retire “CUT”'],
    },
    {
      name: 'one that is shadowed by pins',
      given: {
        alternates: [rated],
        pins: [pin('hemp', 'rated')],
        rules: [rule('b', 'rated', typed('rope'))],
      },
      found: [['rule-shadowed', 3]],
      says: /gives nobody anything: all 1 are taken before it by pins/,
      fixes: ['Remove the rule'],
    },
    {
      name: 'one that waits for its day is neither shadowed nor its alternate unused',
      given: { alternates: [cut], rules: [rule('a', 'cut', typed('rope'), { from: '2026-12-01' })] },
      found: [],
      says: /^$/,
      fixes: [],
    },
    {
      name: 'a pin to what is gone',
      given: { alternates: [rated], pins: [pin('bow', 'rated'), pin('left', 'rated')] },
      found: [['pin-gone', 3]],
      says: /There is no product “left” any more, which is pinned to “RATED”/,
      fixes: ['Remove the pin'],
    },
    {
      name: 'two pins of one subject',
      given: { alternates: [rated, cut], pins: [pin('bow', 'rated'), pin('hemp', 'cut'), pin('bow', 'cut')] },
      found: [['pin-twice', 5]],
      says: /bow is pinned twice: to “RATED”, which counts, and to “CUT”/,
      fixes: ['Keep “RATED”', 'Keep “CUT”'],
    },
    {
      name: 'two pins to one and the same',
      given: { alternates: [rated], pins: [pin('bow', 'rated'), pin('bow', 'rated')] },
      found: [['pin-twice', 3]],
      says: /bow is pinned twice/,
      fixes: ['Keep “RATED”'],
    },
    {
      name: 'an alternate given by a rule to a type that it is not meant for',
      given: { alternates: [meant('rated', 'shackle')], rules: [rule('a', 'rated', tagged('deck'))] },
      found: [['alternate-unmeant', 1]],
      says: /“RATED” is meant for shackle, and 1 product of type rope gets it: hemp/,
      fixes: ['It is meant for rope too', 'Narrow the rule to shackle'],
    },
    {
      name: 'an alternate pinned to a type that it is not meant for',
      given: { alternates: [meant('rated', 'shackle')], pins: [pin('bow', 'rated'), pin('hemp', 'rated')] },
      found: [['alternate-unmeant', 1]],
      says: /1 product of type rope gets it: hemp/,
      fixes: ['It is meant for rope too', 'Remove the pin'],
    },
    {
      name: 'a file missing',
      given: { alternates: [meant('lost')], pins: [pin('bow', 'lost')] },
      found: [['alternate-file', 1]],
      says: /The file product\/lost.html of “LOST” is missing/,
      fixes: ['Make the file from default', 'Retire “LOST”'],
    },
    {
      name: 'assignments to what is not registered',
      given: { pins: [pin('bow', 'nothing')], rules: [rule('a', 'nothing', typed('rope'))] },
      found: [
        ['alternate-unregistered', 1],
        ['alternate-unregistered', 2],
      ],
      says: /bow is pinned to “nothing”, which there is not/,
      fixes: ['Remove the pin'],
    },
    {
      name: 'none where all is well',
      given: { alternates: [rated], pins: [pin('bow', 'rated')] },
      found: [],
      says: /^$/,
      fixes: [],
    },
  ];
  for (const { name, given, found, says, fixes } of table)
    it(name, () => {
      const all: Alternates = { alternates: [], pins: [], rules: [], ...given };
      const problems = told(all);
      expect(problems.map(({ code, line }) => [code, line])).toEqual(found);
      expect(problems[0]?.says ?? '').toMatch(says);
      expect(problems[0]?.fixes.map(({ title }) => title) ?? []).toEqual(fixes);
    });

  it('a shadowed rule is moved only before one that keeps someone, and gives something else', () => {
    const shadowed = (...rules: Rule[]) =>
      told({ alternates: [rated, cut], pins: [], rules }).find(({ code }) => code === 'rule-shadowed');
    const deck = rule('deck', 'rated', tagged('deck'));
    const moves = (...rules: Rule[]) => shadowed(...rules)?.fixes.map(({ title }) => title);
    expect(moves(deck, rule('b', 'cut', typed('rope')))).toEqual(['Move it before “RATED”', 'Remove the rule']);
    expect(moves(deck, rule('b', 'rated', typed('rope')))).toEqual(['Remove the rule']);
    expect(moves(deck, rule('b', 'cut', tagged('deck')))).toEqual(['Remove the rule']);
    // Behind rules that give the same and another thing: before the one that gives another.
    const both = shadowed(
      rule('same', 'cut', typed('rope')),
      rule('any', 'rated', tagged('deck', 'load-rated')),
      rule('b', 'cut', { any: [typed('rope'), { fact: 'field', name: 'load', test: 'at-least', value: 12 }] }),
    );
    expect(both?.says).toContain('all 2 are taken before it, by “CUT” by the rule “type is rope”');
    expect(both?.fixes[0]).toMatchObject({ edit: { do: 'order', names: ['same', 'b', 'any'] } });
  });

  it('all ten are among them', () => {
    const codes = new Set(table.flatMap(({ found }) => found.map(([code]) => code)));
    expect(codes.size).toBe(10);
  });
});

// Whatever is assigned to whom: what is told is so, and what is offered fixes it.
const condition = fc.oneof(
  fc.uniqueArray(fc.constantFrom(...tags, 'retired'), { minLength: 1 }).map((value) => tagged(...value)),
  fc.uniqueArray(fc.constantFrom('shackle', 'rope', 'cord', 'lamp'), { minLength: 1 }).map((value) => typed(...value)),
  fc.constantFrom<Condition>(
    { all: [] },
    { fact: 'price', test: 'at-least', value: 1800 },
    { fact: 'price', test: 'empty' },
    { fact: 'field', name: 'load', test: 'filled' },
    { fact: 'field', name: 'gone', test: 'filled' },
    { all: [tagged('retired'), typed('rope', 'cord')] },
    { not: [tagged('deck')] },
    { any: [typed('cord'), { fact: 'field', name: 'load', test: 'at-most', value: 12 }] },
  ),
);
const names = ['rated', 'cut', 'lost'] as const;
const alternates = fc.record({
  alternates: fc.subarray([meant('rated', 'shackle'), meant('cut', 'rope', 'cord'), meant('lost')]),
  pins: fc.array(
    fc.record({
      kind: fc.constant('product' as const),
      slug: fc.constantFrom(...rows.map(({ slug }) => slug), 'left'),
      alternate: fc.constantFrom(...names, 'default'),
    }),
    { maxLength: 4 },
  ),
  rules: fc
    .array(fc.tuple(fc.constantFrom(...names), condition, fc.constantFrom(null, '2026-12-01')), { maxLength: 5 })
    .map((list) => list.map(([name, when, from], at) => rule(`r${at}`, name, when, { from }))),
});

/** Who gets what, subject by subject, without the coverage. */
const served = (all: Alternates): string[] => {
  const choose = chooser(all, known.exists, today, definitions);
  return rows.map((row) => choose.choose(product, row.slug, factsOf(row)).template);
};

describe('whatever is assigned', () => {
  it('the edits that are offered lead out of each problem, whichever is taken first', () => {
    fc.assert(
      fc.property(alternates, fc.nat(3), (all, nth) => {
        for (const { code } of told(all)) {
          let now: Alternates = all;
          const of = () => told(now).find((one) => one.code === code);
          for (let steps = 0; steps < 24; steps++) {
            const edits = of()?.fixes.flatMap((fix) => ('edit' in fix ? [fix.edit] : [])) ?? [];
            const [edit] = edits.slice(nth % Math.max(1, edits.length));
            if (!edit) break;
            const before = JSON.stringify(now);
            const next = edited(now, edit);
            expect(JSON.stringify(now)).toBe(before);
            expect(next).not.toEqual(now);
            now = next;
          }
          expect(of()?.fixes.filter((fix) => 'edit' in fix) ?? []).toEqual([]);
        }
      }),
      { numRuns: 300 },
    );
  });

  it('a rule said to give nobody anything can go, and nobody is served otherwise; moved as offered it gives', () => {
    fc.assert(
      fc.property(alternates, (all) => {
        const without = (id: string): Alternates => ({ ...all, rules: all.rules.filter((one) => one.id !== id) });
        for (const { code, fixes } of told(all)) {
          if (code !== 'rule-shadowed' && code !== 'rule-nothing') continue;
          for (const fix of fixes) {
            if (!('edit' in fix)) continue;
            if (fix.edit.do === 'remove-rule') expect(served(without(fix.edit.id))).toEqual(served(all));
            if (fix.edit.do !== 'order') continue;
            const { names, seen } = fix.edit;
            const [moved] = names.filter((name, at) => name !== seen[at]);
            const count = covered(edited(all, fix.edit)).rules.find((one) => one.rule.id === moved);
            expect(count?.decides).toBeGreaterThan(0);
          }
        }
      }),
      { numRuns: 300 },
    );
  });

  it('it is covered as it is served, subject by subject, with the same reasons', () => {
    fc.assert(
      fc.property(alternates, (all) => {
        const coverage = covered(all);
        const choose = chooser(all, known.exists, today, definitions);
        for (const [place, row] of rows.entries()) {
          const { template, because, rule: by } = choose.choose(product, row.slug, factsOf(row));
          expect(coverage.wayOf(place)).toEqual({ template, because, rule: by });
        }
      }),
      { numRuns: 500 },
    );
  });

  it('what changes one subject is worked out for it alone, and comes to what all of it from scratch comes to', () => {
    const change = fc.record({
      at: fc.nat(rows.length - 1),
      type: fc.constantFrom('shackle', 'rope', 'cord', ''),
      tag: fc.subarray(tags),
      price: fc.constantFrom(null, 0, 1800, 9000),
    });
    fc.assert(
      fc.property(alternates, fc.array(change, { maxLength: 4 }), (all, changes) => {
        const coverage = covered(all);
        const now = [...rows];
        const { computed } = coverage;
        for (const { at, ...facts } of changes) {
          now[at] = { ...(now[at] as Row), ...facts };
          coverage.ask.table.put(at, factsOf(now[at]));
          coverage.update([at]);
        }
        expect(coverage.computed - computed).toBe(changes.length);
        const fresh = cover({ ...coverage.ask, table: tableOf(now) });
        expect(now.map((_, at) => coverage.wayOf(at))).toEqual(now.map((_, at) => fresh.wayOf(at)));
        expect(coverage.rules).toEqual(fresh.rules);
        for (const { rule: one, wrong } of fresh.rules)
          if (wrong === null)
            expect([...(coverage.heldBy(one.id)?.members() ?? [])]).toEqual([
              ...(fresh.heldBy(one.id)?.members() ?? []),
            ]);
      }),
      { numRuns: 300 },
    );
  });

  it('an alternate is told as unused just when nobody gets it and no rule of it waits for its day', () => {
    fc.assert(
      fc.property(alternates, (all) => {
        const unused = told(all).flatMap(({ code, line }) => (code === 'alternate-unused' ? [line] : []));
        const now = served(all);
        const wanted = all.alternates.flatMap((one, at) => {
          const template = templateOf(one, one.name);
          const waits = all.rules.some(({ alternate, from }) => alternate === one.name && from !== null);
          return known.exists(template) && !now.includes(template) && !waits ? [at + 1] : [];
        });
        expect(unused).toEqual(wanted);
      }),
      { numRuns: 300 },
    );
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Alternates, Pin, Rule, Target } from './alternates';
import { chooser, compile } from './choose';
import type { Condition } from './condition';
import { cover, switches, type CoverAsk } from './coverage';
import { definitions, entry, factsOf, is, rule, tableOf, type Row } from './testing/rows';

const today = '2026-11-26';
const product: Target = { kind: 'product' };
const exists = (template: string) => !template.endsWith('/lost');

const slugs = ['bow', 'dee', 'hemp', 'manila', 'cotton', 'almanac', 'lamp'];
const row = (slug: string): fc.Arbitrary<Row> =>
  fc.record({
    slug: fc.constant(slug),
    type: fc.constantFrom(null, 'shackle', 'rope', 'cord', 'Book'),
    tag: fc.subarray(['load-rated', 'deck', 'offer']),
    price: fc.constantFrom(null, 0, 420, 2400),
    stock: fc.integer({ min: -1, max: 2 }),
    added: fc.constantFrom(null, '2026-01-01', '2026-11-20', '2026-11-26', '2026-12-05'),
    'field load': fc.constantFrom(null, 3, 12.5),
    'field spliced': fc.constantFrom(null, true, false),
  });
const rows = fc.tuple(...slugs.map(row));

const leaf = fc.constantFrom<Condition>(
  is('tag', 'load-rated'),
  is('tag', 'offer', 'retired'),
  is('type', 'ROPE', 'cord'),
  is('type', 'book'),
  { fact: 'type', test: 'contains', value: 'o' },
  { fact: 'type', test: 'begins', value: 'sha' },
  { fact: 'type', test: 'empty' },
  { fact: 'tag', test: 'empty' },
  { fact: 'price', test: 'at-least', value: 420 },
  { fact: 'price', test: 'filled' },
  { fact: 'stock', test: 'at-most', value: 0 },
  { fact: 'added', test: 'last', value: 7 },
  { fact: 'added', test: 'until', value: '2026-11-20' },
  { fact: 'field', name: 'load', test: 'at-most', value: 3 },
  { fact: 'field', name: 'load', test: 'equals', value: 12.5 },
  { fact: 'field', name: 'spliced', test: 'yes' },
  { fact: 'field', name: 'spliced', test: 'no' },
  // A field that is gone: the rule is left out whole.
  { fact: 'field', name: 'gone', test: 'filled' },
);
const { condition } = fc.letrec<{ condition: Condition }>((tie) => ({
  condition: fc.oneof(
    { depthSize: 'small' },
    leaf,
    fc.record({ all: fc.array(tie('condition'), { maxLength: 3 }) }),
    fc.record({ any: fc.array(tie('condition'), { maxLength: 3 }) }),
    fc.record({ not: fc.array(tie('condition'), { maxLength: 2 }) }),
  ),
}));
const names = fc.constantFrom('rated', 'cut', 'lost', 'default');
const pins: fc.Arbitrary<Pin[]> = fc.array(
  fc.record({ kind: fc.constant('product' as const), slug: fc.constantFrom(...slugs, 'gone'), alternate: names }),
  { maxLength: 4 },
);
const rules: fc.Arbitrary<Rule[]> = fc
  .array(fc.tuple(names, condition, fc.constantFrom(null, '2026-11-26', '2026-12-01')), { maxLength: 5 })
  .map((list) => list.map(([to, when, from], at) => rule(`r${at}`, to, when, { from })));
const assignments = fc.record({ pins, rules }).map(({ pins, rules }): Alternates => ({
  alternates: ['rated', 'cut', 'lost'].map((name) => entry(name)),
  pins,
  rules,
}));

const asked = (alternates: Alternates, list: readonly Row[], more: Partial<CoverAsk> = {}): CoverAsk => ({
  ...{ alternates, target: product, table: tableOf(list), exists, today, definitions },
  ...more,
});

/** Who gets what, subject by subject, from their facts alone: no columns, no sets. */
function oneByOne(alternates: Alternates, list: readonly Row[]): string[] {
  const { choose } = chooser(alternates, exists, today, definitions);
  return list.map((one) => {
    const { template, because, rule } = choose(product, one.slug, factsOf(one));
    return `${one.slug} ${template} ${because} ${rule}`;
  });
}

const allOf = (coverage: ReturnType<typeof cover>): string[] =>
  coverage.ask.table.slugs.map((slug, place) => {
    const { template, because, rule } = coverage.wayOf(place);
    return `${slug} ${template} ${because} ${rule}`;
  });

describe('who gets what, all at once', () => {
  it('is what each is found to get by itself; a rule is counted for whom it holds and to whom it gives', () => {
    fc.assert(
      fc.property(rows, assignments, (list, alternates) => {
        const coverage = cover(asked(alternates, list));
        const each = oneByOne(alternates, list);
        expect(allOf(coverage)).toEqual(each);
        expect(coverage.counts().reduce((sum, count) => sum + count, 0)).toBe(list.length);
        for (const { rule: one, wrong, holds, decides } of coverage.rules) {
          const held = compile(one.when, today);
          if (wrong === null) expect(holds).toBe(list.filter((row) => held(factsOf(row))).length);
          expect(decides).toBe(each.filter((said) => said.endsWith(` rule ${one.id}`)).length);
        }
      }),
      { numRuns: 1000 },
    );
  });

  it('after changes is the same as computed from scratch, and only what changed was computed again', () => {
    const change = fc.tuple(fc.nat(slugs.length - 1), rows);
    fc.assert(
      fc.property(rows, assignments, fc.array(change, { maxLength: 4 }), (before, alternates, changes) => {
        const list = [...before];
        const coverage = cover(asked(alternates, list));
        const computed = coverage.computed;
        for (const [place, others] of changes) {
          list[place] = others[place] as Row;
          coverage.ask.table.put(place, factsOf(list[place]));
          coverage.update([place]);
        }
        const fresh = cover(asked(alternates, list));
        expect(allOf(coverage)).toEqual(allOf(fresh));
        const counted = (of: typeof fresh) => of.rules.map(({ rule, holds, decides }) => [rule.id, holds, decides]);
        expect(counted(coverage)).toEqual(counted(fresh));
        const held = (of: typeof fresh) => alternates.rules.map(({ id }) => [...(of.heldBy(id)?.members() ?? [])]);
        expect(held(coverage)).toEqual(held(fresh));
        expect(coverage.computed - computed).toBe(changes.length);
      }),
      { numRuns: 500 },
    );
  });
});

describe('what will switch', () => {
  const list: Row[] = [
    { slug: 'bow', type: 'shackle', tag: ['offer'], added: '2026-11-20' },
    { slug: 'hemp', type: 'rope', tag: [], added: '2026-11-24' },
    { slug: 'cotton', type: 'cord', tag: ['offer'], added: '2026-01-01' },
  ];
  const offer = is('tag', 'offer');
  const fresh: Condition = { fact: 'added', test: 'last', value: 7 };
  const cases: [what: string, rules: Rule[], told: string[]][] = [
    ['nothing without days', [rule('a', 'rated', offer)], []],
    ['a rule that begins', [rule('a', 'rated', offer, { from: '2026-12-01' })], ['2026-12-01 bow cotton by a']],
    [
      'a rule that is over the day after its last',
      [rule('a', 'rated', offer, { to: '2026-12-24' })],
      ['2026-12-25 bow cotton by a'],
    ],
    [
      'one that comes and goes',
      [rule('a', 'rated', offer, { from: '2026-11-30', to: '2026-11-30' })],
      ['2026-11-30 bow cotton by a', '2026-12-01 bow cotton by a'],
    ],
    [
      'not what begins today, or after thirty days',
      [rule('a', 'rated', offer, { from: '2026-11-26', to: '2027-02-01' })],
      [],
    ],
    [
      'not what another takes before it',
      [rule('b', 'cut', offer), rule('a', 'rated', offer, { from: '2026-12-01' })],
      [],
    ],
    [
      'one rule in the place of another',
      [rule('a', 'cut', offer, { to: '2026-11-30' }), rule('b', 'rated', is('type', 'cord'))],
      ['2026-12-01 bow cotton by a b'],
    ],
    ['not one template by two rules', [rule('a', 'cut', offer, { to: '2026-11-30' }), rule('b', 'cut', offer)], []],
    [
      'what grows old: of seven days today is the last',
      [rule('a', 'rated', fresh)],
      ['2026-11-27 bow by a', '2026-12-01 hemp by a'],
    ],
    ['not what has no file', [rule('a', 'lost', offer, { from: '2026-12-01' })], []],
  ];
  for (const [what, rules, told] of cases)
    it(what, () => {
      const alternates: Alternates = { alternates: [entry('rated'), entry('cut'), entry('lost')], pins: [], rules };
      const found = switches(asked(alternates, list), 30);
      expect(
        found.map(({ day, places, count, rules: by }) => {
          expect(count).toBe(places.length);
          return `${day} ${places.map((at) => list[at]?.slug).join(' ')} by ${by.sort().join(' ')}`;
        }),
      ).toEqual(told);
    });

  it('names some, and counts all', () => {
    const alternates: Alternates = {
      alternates: [entry('rated')],
      pins: [],
      rules: [rule('a', 'rated', offer, { from: '2026-12-01' })],
    };
    const [found] = switches(asked(alternates, list), 30, 1);
    expect([found?.places.length, found?.count]).toEqual([1, 2]);
  });
});

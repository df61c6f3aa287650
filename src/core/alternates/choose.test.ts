import { describe, expect, it } from 'vitest';
import type { FieldDefinition } from '../catalogue/rows';
import type { Alternates, Rule, Target } from './alternates';
import { chooser, wrongRule } from './choose';
import { testsOf, testOf, type Condition, type Leaf } from './condition';
import { explain } from './explain';
import type { Facts, FactValue } from '@/core/catalogue/facts';
import { is, plainField, rule } from './testing/rows';
import { sayCondition, type Wording } from './words';

const fields: FieldDefinition[] = [
  { key: 'load', name: 'Breaking load', type: 'number', unit: 'kN', ...plainField },
  { key: 'spliced', name: 'Spliced', type: 'flag', unit: '', ...plainField },
  { key: 'until', name: 'Sold until', type: 'day', unit: '', ...plainField },
  { key: 'lay', name: 'Lay', type: 'text', unit: '', ...plainField },
];
const definitions = (kind: string) => (kind === 'product' ? fields : []);
const has =
  (values: Record<string, FactValue>): Facts =>
  ({ fact, name }) =>
    values[name ?? fact] ?? null;

/** Worked by hand from DESIGN.md, “Alternates and assignments”: pins beat rules, rules in their order, the first that holds, else default. */
describe('which template serves', () => {
  const rated = rule('rated', 'load-rated', is('tag', 'load-rated'));
  const rope = rule('rope', 'cut', is('type', 'rope'));
  const advent = rule('advent', 'winter', { all: [] }, { from: '2026-12-01', to: '2026-12-24' });
  const exists = (name: string) =>
    [
      'product/default',
      'product/load-rated',
      'product/cut',
      'product/winter',
      'category/default',
      'pieces/tile',
      'pieces/tile/cut',
    ].includes(name);
  const pin = (slug: string, alternate: string) => ({ kind: 'product' as const, slug, alternate });
  const table: {
    name: string;
    pins?: Alternates['pins'];
    rules?: Rule[];
    facts?: Record<string, FactValue>;
    kind?: 'category' | 'product';
    piece?: string;
    slug?: string;
    day?: string;
    tried?: string;
    gets: string;
  }[] = [
    { name: 'nothing assigned', gets: 'product/default default' },
    { name: 'a pin', pins: [pin('shackle', 'load-rated')], gets: 'product/load-rated pin' },
    { name: 'a pin of another', pins: [pin('lamp', 'load-rated')], gets: 'product/default default' },
    {
      name: 'a pin of another kind',
      kind: 'category',
      pins: [pin('shackle', 'load-rated')],
      gets: 'category/default default',
    },
    {
      name: 'a rule that holds',
      rules: [rated],
      facts: { tag: ['load-rated'] },
      gets: 'product/load-rated rule rated',
    },
    { name: 'a rule that does not', rules: [rated], facts: { tag: ['deck'] }, gets: 'product/default default' },
    {
      name: 'a pin before a rule',
      pins: [pin('shackle', 'cut')],
      rules: [rated],
      facts: { tag: ['load-rated'] },
      gets: 'product/cut pin',
    },
    {
      name: 'a pin to default before a rule',
      pins: [pin('shackle', 'default')],
      rules: [rated],
      facts: { tag: ['load-rated'] },
      gets: 'product/default pin',
    },
    {
      name: 'the first rule that holds',
      rules: [rated, rope],
      facts: { tag: ['load-rated'], type: 'rope' },
      gets: 'product/load-rated rule rated',
    },
    {
      name: 'in their order',
      rules: [rope, rated],
      facts: { tag: ['load-rated'], type: 'rope' },
      gets: 'product/cut rule rope',
    },
    {
      name: 'a rule passed over',
      rules: [rope, rated],
      facts: { tag: ['load-rated'], type: 'cord' },
      gets: 'product/load-rated rule rated',
    },
    {
      name: 'a file that is gone: the next assignment',
      pins: [pin('shackle', 'gone')],
      rules: [rope],
      facts: { type: 'rope' },
      gets: 'product/cut rule rope',
    },
    { name: 'a file that is gone, and nothing else', pins: [pin('shackle', 'gone')], gets: 'product/default default' },
    { name: 'the day before a rule begins', rules: [advent], day: '2026-11-30', gets: 'product/default default' },
    { name: 'its first day', rules: [advent], day: '2026-12-01', gets: 'product/winter rule advent' },
    { name: 'its last day', rules: [advent], day: '2026-12-24', gets: 'product/winter rule advent' },
    { name: 'the day after', rules: [advent], day: '2026-12-25', gets: 'product/default default' },
    {
      name: 'a rule on a field that is gone is left out',
      rules: [rule('x', 'cut', { not: [{ fact: 'field', name: 'gone', test: 'filled' }] })],
      gets: 'product/default default',
    },
    {
      name: 'so is one on a field of another type',
      rules: [rule('x', 'cut', { not: [{ fact: 'field', name: 'lay', test: 'at-least', value: 3 }] })],
      gets: 'product/default default',
    },
    {
      name: 'one that is tried goes before all',
      pins: [pin('shackle', 'load-rated')],
      tried: 'cut',
      gets: 'product/cut tried',
    },
    {
      name: 'default can be tried',
      pins: [pin('shackle', 'load-rated')],
      tried: 'default',
      gets: 'product/default tried',
    },
    {
      name: 'one that is tried and not there',
      pins: [pin('shackle', 'load-rated')],
      tried: 'nothing',
      gets: 'product/load-rated pin',
    },
    {
      name: 'a piece by its own rules',
      piece: 'pieces/tile',
      rules: [rated, { ...rope, piece: 'pieces/tile' }],
      facts: { type: 'rope', tag: ['load-rated'] },
      gets: 'pieces/tile/cut rule rope',
    },
    {
      name: 'a piece without any',
      piece: 'pieces/tile',
      rules: [rated],
      facts: { tag: ['load-rated'] },
      gets: 'pieces/tile default',
    },
    {
      name: 'two pins: the first',
      pins: [pin('shackle', 'cut'), pin('shackle', 'load-rated')],
      gets: 'product/cut pin',
    },
  ];
  for (const {
    name,
    pins = [],
    rules = [],
    facts = {},
    kind = 'product',
    piece,
    slug = 'shackle',
    day = '2026-11-26',
    tried,
    gets,
  } of table) {
    it(name, () => {
      const all = { alternates: [], pins, rules };
      const choose = chooser(all, exists, day, definitions);
      const target: Target = piece ? { kind, piece } : { kind };
      const { template, because, rule: by } = choose.choose(target, slug, has(facts), tried);
      expect([template, because, ...(by === null ? [] : [by])].join(' ')).toBe(gets);
      // The explanation comes to the same, and the one step that decides is the one that the choice names.
      const told = explain(
        all,
        target,
        { slug, facts: has(facts) },
        { chooser: choose, exists, definitions, tried: tried ?? null },
      );
      expect(told.template).toBe(template);
      const deciding = told.steps.filter((step) => step.decides);
      expect(deciding.map((step) => (step.kind === 'rule' ? `rule ${step.id}` : step.kind))).toEqual(
        because === 'tried' ? [] : [by === null ? because : `rule ${by}`],
      );
    });
  }
  it('says which file is missing', () => {
    const all = { alternates: [], pins: [pin('lamp', 'gone')], rules: [] };
    const { broken } = chooser(all, exists, '2026-11-26', definitions).choose({ kind: 'product' }, 'lamp', has({}));
    expect(broken).toBe('product/gone');
  });
});

describe('questions', () => {
  const today = '2026-11-26';
  const table: [leaf: Leaf, yes: FactValue[], no: FactValue[]][] = [
    [is('type', 'Rope', 'cord'), ['rope', ' ROPE ', 'Cord'], ['', null, 'ropes', 3]],
    [is('tag', 'deck'), [['deck'], ['a', 'Deck']], [[], ['decks'], null]],
    [is('type', 'Knots “⚓” \u0627\u0644'), ['knots “⚓” \u0627\u0644'], ['knots']],
    [is('type', 'caf\u00e9'), ['cafe\u0301', 'CAF\u00c9'], ['cafe']],
    [{ fact: 'slug', test: 'begins', value: 'Oak' }, ['oak-fid', 'oak'], ['soak', null]],
    [{ fact: 'slug', test: 'contains', value: 'fid' }, ['oak-fid'], ['oak', null]],
    [{ fact: 'price', test: 'at-least', value: 1000 }, [1000, 1001], [999, null]],
    [{ fact: 'price', test: 'at-most', value: 1000 }, [1000, 0, -1], [1001, null]],
    [{ fact: 'price', test: 'equals', value: 0 }, [0], [null, 1]],
    [{ fact: 'added', test: 'since', value: '2026-02-01' }, ['2026-02-01', '2027-01-01'], ['2026-01-31', null]],
    [{ fact: 'added', test: 'until', value: '2026-02-01' }, ['2026-02-01', '1999-12-31'], ['2026-02-02', null, '']],
    [{ fact: 'added', test: 'last', value: 1 }, [today], ['2026-11-25', '2026-11-27', null]],
    [{ fact: 'added', test: 'last', value: 30 }, [today, '2026-10-28'], ['2026-10-27']],
    [{ fact: 'field', name: 'x', test: 'filled' }, ['a', 0, false, ['a']], ['', null, []]],
    [{ fact: 'field', name: 'x', test: 'empty' }, ['', null, []], ['a', 0, false]],
    [{ fact: 'field', name: 'x', test: 'yes' }, [true], [false, null]],
    [{ fact: 'field', name: 'x', test: 'no' }, [false, null], [true]],
  ];
  for (const [leaf, yes, no] of table) {
    it(`${leaf.test} ${'value' in leaf ? JSON.stringify(leaf.value) : ''}`, () => {
      const test = testOf(leaf, today);
      for (const value of yes) expect(test(value), JSON.stringify(value)).toBe(true);
      for (const value of no) expect(test(value), JSON.stringify(value)).toBe(false);
    });
  }
  it('are refused where they do not fit', () => {
    const wrong = (when: Condition) => wrongRule({ kind: 'product', when }, definitions)?.says ?? null;
    expect(wrong({ fact: 'field', name: 'gone', test: 'filled' })).toMatch(/no custom field “gone”/);
    expect(wrong({ fact: 'field', name: 'load', test: 'is', value: ['x'] })).toMatch(/“load” is a number now/);
    expect(wrong({ fact: 'level', test: 'at-least', value: 1 })).toMatch(/A product has no “level”/);
    expect(wrong({ fact: 'field', name: 'load', test: 'at-least', value: 3 })).toBeNull();
  });
  it('every type of fact has a test for none', () => {
    for (const [type, tests] of Object.entries(testsOf))
      expect(
        tests.some((test) => test === 'empty' || test === 'no'),
        type,
      ).toBe(true);
  });
});

describe('in words', () => {
  const words: Wording = {
    money: (minor) => `£${(minor / 100).toFixed(2)}`,
    day: (iso) => iso.split('-').reverse().join('.'),
    name: (_, slug) => slug.replaceAll('-', ' '),
    definitions,
  };
  const table: [Condition, string][] = [
    [{ all: [] }, 'always'],
    [{ any: [] }, 'never'],
    [is('tag', 'load-rated', 'deck', 'gift'), 'tag is load rated, deck or gift'],
    [is('category', 'rope'), 'category is rope or below'],
    [
      { all: [is('type', 'rope'), { fact: 'price', test: 'at-least', value: 2000 }] },
      'type is rope and price at least £20.00',
    ],
    [
      { any: [is('type', 'rope'), { all: [is('brand', 'x'), is('slug', 'y')] }] },
      'type is rope or (brand is x and slug is y)',
    ],
    [
      { not: [is('type', 'rope'), { fact: 'stock', test: 'at-most', value: 0 }] },
      'not (type is rope or stock at most 0)',
    ],
    [{ fact: 'field', name: 'load', test: 'at-least', value: 12 }, 'Breaking load at least 12 kN'],
    [{ fact: 'added', test: 'last', value: 30 }, 'came in in the last 30 days'],
    [{ fact: 'field', name: 'gone', test: 'filled' }, 'field gone is filled'],
  ];
  for (const [condition, said] of table) it(said, () => expect(sayCondition('product', condition, words)).toBe(said));
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { condition, dayBefore, fold, groupOf, leavesOf, wrongLeaf, type Condition, type Leaf } from './condition';
import { factKey, factSpecs, fieldFact, specOf, type FactValue } from '@/core/catalogue/facts';
import { definitions, is } from './testing/rows';

const deep = (levels: number): unknown => (levels === 0 ? is('tag', 'a') : { all: [deep(levels - 1)] });

describe('a condition as it is written', () => {
  const good: [name: string, given: unknown][] = [
    ['a question', is('tag', 'a')],
    ['of an attribute', { fact: 'attribute', name: 'Lay', test: 'begins', value: 'right' }],
    ['without a value', { fact: 'price', test: 'filled' }],
    ['of the last days', { fact: 'added', test: 'last', value: 3660 }],
    ['what always holds', { all: [] }],
    ['what never holds', { any: [] }],
    ['groups in groups', { all: [{ any: [is('tag', 'a'), { not: [is('type', 'b')] }] }] }],
    ['eight groups in a group', deep(9)],
  ];
  for (const [name, given] of good)
    it(`${name} comes back as it is`, () => expect(condition.parse(given)).toEqual(given));

  const bad: [name: string, given: unknown, path: string][] = [
    ['nothing', null, ''],
    ['a text', 'tag is a', ''],
    ['a list', [is('tag', 'a')], ''],
    ['a question without a test', { fact: 'tag', value: ['a'] }, 'test'],
    ['a test that there is not', { fact: 'tag', test: 'like', value: ['a'] }, 'test'],
    ['no texts to be one of', { fact: 'tag', test: 'is', value: [] }, 'value'],
    ['a text in the place of texts', { fact: 'tag', test: 'is', value: 'a' }, 'value'],
    ['a number as a text', { fact: 'price', test: 'at-least', value: '20' }, 'value'],
    ['a number without end', { fact: 'price', test: 'at-least', value: Infinity }, 'value'],
    ['a day that there is not', { fact: 'added', test: 'since', value: '2026-02-30' }, 'value'],
    ['a day in other words', { fact: 'added', test: 'since', value: '1 May 2026' }, 'value'],
    ['no days', { fact: 'added', test: 'last', value: 0 }, 'value'],
    ['half a day', { fact: 'added', test: 'last', value: 1.5 }, 'value'],
    ['a value where none is wanted', { fact: 'price', test: 'filled', value: 3 }, ''],
    ['something nobody knows', { ...is('tag', 'a'), also: 1 }, ''],
    ['two groups in one', { all: [], any: [] }, ''],
    ['a group that is not a list', { all: is('tag', 'a') }, 'all'],
    [
      'a mistake deep down',
      { all: [is('tag', 'a'), { not: [{ any: [{ fact: 'x', test: 'is' }] }] }] },
      'all.1.not.0.any.0.value',
    ],
    ['nine groups in a group', deep(10), `${'all.0.'.repeat(9)}test`],
  ];
  for (const [name, given, path] of bad)
    it(`${name} is told by its place`, () => {
      const read = condition.safeParse(given);
      expect(read.success).toBe(false);
      expect(read.error?.issues.map((one) => one.path.join('.'))).toContain(path);
    });

  it('has its questions in their order, and no more', () => {
    const given: Condition = { all: [is('tag', 'a'), { not: [is('tag', 'b'), { any: [is('tag', 'c')] }] }] };
    expect([...leavesOf(given)].map((one) => ('value' in one ? one.value : ''))).toEqual([['a'], ['b'], ['c']]);
    expect(groupOf(given)?.name).toBe('all');
    expect(groupOf(is('tag', 'a'))).toBeNull();
  });
});

describe('what can be asked', () => {
  const field = (name: string, test: 'filled' | 'yes'): Leaf => ({ fact: 'field', name, test });
  const table: [kind: 'product' | 'category' | 'listing' | 'home', leaf: Leaf, code: 'gone' | 'type' | null][] = [
    ['product', is('tag', 'a'), null],
    ['product', { fact: 'tag', test: 'contains', value: 'a' }, 'type'],
    ['product', { fact: 'attribute', name: 'Lay', test: 'filled' }, null],
    ['product', { fact: 'attribute', test: 'filled' }, 'gone'],
    ['category', { fact: 'attribute', name: 'Lay', test: 'filled' }, 'gone'],
    ['product', field('load', 'filled'), null],
    ['product', field('load', 'yes'), 'type'],
    ['product', field('spliced', 'yes'), null],
    ['product', field('none', 'filled'), 'gone'],
    ['category', field('load', 'filled'), 'gone'],
    ['listing', field('load', 'filled'), 'gone'],
    ['product', { fact: 'level', test: 'at-least', value: 1 }, 'gone'],
    ['category', { fact: 'level', test: 'at-least', value: 1 }, null],
    ['listing', is('kind', 'tag'), null],
    ['home', is('slug', 'x'), 'gone'],
  ];
  for (const [kind, leaf, code] of table)
    it(`${kind}: ${factKey(leaf)} ${leaf.test}: ${code ?? 'can be'}`, () =>
      expect(wrongLeaf(kind, leaf, definitions)?.code ?? null).toBe(code));

  it('facts of a kind are told apart by their names, and custom fields by theirs', () => {
    for (const specs of Object.values(factSpecs))
      expect(new Set(specs.map(({ fact }) => fact)).size).toBe(specs.length);
    expect(specOf('product', { fact: 'field', name: 'load' }, definitions)).toEqual({
      fact: 'field',
      type: 'number',
      label: 'Breaking load',
    });
  });
});

describe('values', () => {
  const stored: [type: Parameters<typeof fieldFact>[0], stored: string, fact: FactValue][] = [
    ['number', '4.5', 4.5],
    ['number', '0', 0],
    ['number', ' ', null],
    ['number', 'many', null],
    ['number', 'Infinity', null],
    ['flag', 'true', true],
    ['flag', 'false', false],
    ['flag', '', false],
    ['day', '2026-11-26', '2026-11-26'],
    ['day', '26.11.2026', null],
    ['text', '', null],
    ['text', ' a ', ' a '],
    ['html', '<p>a</p>', '<p>a</p>'],
  ];
  for (const [type, text, fact] of stored)
    it(`a ${type} stored as “${text}”`, () => expect(fieldFact(type, text)).toBe(fact));

  it('texts fold to one, however they are written', () => {
    const same = ['Café', ' café', 'CAFÉ', 'cafe\u0301 '];
    expect(new Set(same.map(fold)).size).toBe(1);
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), (text) => fold(fold(text)) === fold(text)));
  });

  it('days are counted by the calendar: over years, leap days and clock changes', () => {
    const table: [day: string, days: number, before: string][] = [
      ['2026-11-26', 0, '2026-11-26'],
      ['2026-03-01', 1, '2026-02-28'],
      ['2028-03-01', 1, '2028-02-29'],
      ['2026-01-01', 1, '2025-12-31'],
      ['2026-03-30', 1, '2026-03-29'],
      ['2026-10-26', 1, '2026-10-25'],
      ['2026-11-26', 365, '2025-11-26'],
    ];
    for (const [day, days, before] of table) expect(dayBefore(day, days)).toBe(before);
  });
});

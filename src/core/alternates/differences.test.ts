import { describe, expect, it } from 'vitest';
import type { Alternates } from './alternates';
import { differencesOf } from './differences';
import type { Wording } from './words';

const alternate = (name: string, label = name) => ({ kind: 'product' as const, name, label, note: '', types: [] });
const pin = (slug: string, to: string) => ({ kind: 'product' as const, slug, alternate: to });
const list = (
  alternates: Alternates['alternates'],
  pins: Alternates['pins'] = [],
  rules: Alternates['rules'] = [],
): Alternates => ({
  alternates,
  pins,
  rules,
});

const rule = (id: string, type: string, alternate = 'a') => ({
  id,
  kind: 'product' as const,
  alternate,
  when: { fact: 'type', test: 'is' as const, value: [type] },
  from: null,
  to: null,
  note: '',
});
const words: Wording = { money: String, day: String, name: (_, slug) => slug, definitions: () => [] };

describe('how two lists of assignments differ', () => {
  const table: [string, Alternates, Alternates, string[]][] = [
    ['nothing', list([alternate('a')]), list([alternate('a')]), []],
    ['one more', list([]), list([alternate('a', 'A')]), ['Alternate product/a (“A”) is new']],
    ['one less', list([alternate('a', 'A')]), list([]), ['Alternate product/a (“A”) is gone']],
    [
      'another label',
      list([alternate('a', 'A')]),
      list([alternate('a', 'B')]),
      ['Alternate product/a (“B”) is registered otherwise'],
    ],
    ['a pin', list([]), list([], [pin('x', 'a')]), ['product x is pinned to a']],
    ['another pin', list([], [pin('x', 'a')]), list([], [pin('x', 'b')]), ['product x is pinned to b, no longer to a']],
    ['no pin', list([], [pin('x', 'a')]), list([]), ['product x is no longer pinned to a']],
    ['a rule', list([]), list([], [], [rule('x', 'rope')]), ['A rule is new: product: type is rope → a']],
    ['no rule', list([], [], [rule('x', 'rope')]), list([]), ['A rule is gone: product: type is rope → a']],
    [
      'another rule',
      list([], [], [rule('x', 'rope')]),
      list([], [], [{ ...rule('x', 'cord', 'b'), from: '2026-12-01' }]),
      ['A rule is changed: product: type is cord → b, from 2026-12-01 (it was product: type is rope → a)'],
    ],
    [
      'another order',
      list([], [], [rule('x', 'rope'), rule('y', 'cord')]),
      list([], [], [rule('y', 'cord'), rule('x', 'rope')]),
      ['The rules for product are in another order'],
    ],
    [
      'a pin in a piece',
      list([]),
      list([], [{ ...pin('x', 'book'), piece: 'pieces/tile' }]),
      ['product in pieces/tile x is pinned to book'],
    ],
    [
      'the home page',
      list([]),
      list([], [{ kind: 'home', slug: '', alternate: 'winter' }]),
      ['home is pinned to winter'],
    ],
  ];
  for (const [name, before, after, said] of table)
    it(name, () => expect(differencesOf(before, after, words)).toEqual(said));
});

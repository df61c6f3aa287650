import { describe, expect, it } from 'vitest';
import type { Alternates } from './alternates';
import { differencesOf } from './differences';

const alternate = (name: string, label = name) => ({ kind: 'product' as const, name, label, note: '', types: [] });
const pin = (slug: string, to: string) => ({ kind: 'product' as const, slug, alternate: to });
const list = (alternates: Alternates['alternates'], pins: Alternates['pins'] = []): Alternates => ({
  alternates,
  pins,
});

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
    [
      'the home page',
      list([]),
      list([], [{ kind: 'home', slug: '', alternate: 'winter' }]),
      ['home is pinned to winter'],
    ],
  ];
  for (const [name, before, after, said] of table) it(name, () => expect(differencesOf(before, after)).toEqual(said));
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { coverTree, wayTo, type Counted, type CoverNode } from './cover-tree';

const templates = ['product/default', 'product/rated', 'product/cut'];
const ways: Counted['ways'] = [
  { template: 'product/default', because: 'default' },
  { template: 'product/rated', because: 'rule' },
  { template: 'product/rated', because: 'rule' },
  { template: 'product/rated', because: 'pin' },
  { template: 'product/cut', because: 'rule' },
];
type Group = Counted['groups'][number];
const group = (key: string, parent: string | null, ...counts: [number, number][]): Group => ({
  ...{ key, parent, counts },
  name: key.toUpperCase(),
});

/** A tree in one line: `NAME(parts)`, cells as `template because count`. */
const said = ({ name, cell, parts }: CoverNode): string =>
  cell ? `${cell.template.split('/')[1]} ${cell.because} ${cell.count}` : `${name}(${parts.map(said).join(', ')})`;
const tree = (...groups: Group[]) => said(coverTree({ ways, groups }, templates));

describe('the tree of the map', () => {
  const cases: [what: string, groups: Group[], says: string][] = [
    ['nothing', [], '()'],
    ['one group', [group('a', null, [0, 3])], '(A(default default 3))'],
    ['cells in the order of the templates', [group('a', null, [4, 1], [0, 2])], '(A(default default 2, cut rule 1))'],
    [
      'two rules of one template are one cell, a pin another',
      [group('a', null, [1, 2], [3, 1], [2, 5])],
      '(A(rated rule 7, rated pin 1))',
    ],
    [
      'an empty group is left out',
      [group('a', null, [0, 1]), group('b', null), group('c', null, [0, 0])],
      '(A(default default 1))',
    ],
    [
      'what is in a group itself stands apart from the groups in it',
      [group('a', null, [0, 1]), group('b', 'a', [0, 2]), group('c', null, [0, 3])],
      '(A(B(default default 2), A itself(default default 1)), C(default default 3))',
    ],
    [
      'a group that holds all the others is opened',
      [group('all', null), group('a', 'all', [0, 1]), group('b', 'all', [0, 2])],
      '(A(default default 1), B(default default 2))',
    ],
    [
      'unless it has some of its own, which stand beside them',
      [group('all', null, [0, 4]), group('a', 'all', [0, 1])],
      '(A(default default 1), ALL itself(default default 4))',
    ],
    ['a group whose parent is nowhere', [group('a', 'gone', [0, 1])], '()'],
  ];
  for (const [what, groups, says] of cases)
    it(what, () => {
      expect(tree(...groups)).toBe(says);
    });

  it('says the way to a group: not by the one that holds all, none to what is not there', () => {
    const groups = [group('all', null), group('none', null), group('a', 'all', [0, 1]), group('b', 'a', [0, 2])];
    const made = coverTree({ ways, groups }, templates);
    const way = (key: string) => wayTo(made, key).map((one) => one.key);
    expect(['a', 'b', 'all', 'none', ''].map(way)).toEqual([['a'], ['a', 'b'], [], [], []]);
  });

  it('holds everything that was counted, once, and each key once', () => {
    const counts = fc.array(fc.tuple(fc.nat(ways.length - 1), fc.nat(9)), { maxLength: 5 });
    const forest = fc.array(fc.tuple(fc.nat(30), counts), { maxLength: 25 }).map((list) =>
      // The parent is one of those before, or none.
      list.map(([parent, own], at): Group => group(`g${at}`, parent < at ? `g${parent}` : null, ...own)),
    );
    fc.assert(
      fc.property(forest, (groups) => {
        const keys: string[] = [];
        let sum = 0;
        const walk = (node: CoverNode): void => {
          keys.push(node.key);
          sum += node.cell?.count ?? 0;
          if (!node.cell && node.key) expect(node.parts.length).toBeGreaterThan(0);
          if (node.parts.some(({ cell }) => cell)) expect(node.parts.every(({ cell }) => cell !== null)).toBe(true);
          node.parts.forEach(walk);
        };
        walk(coverTree({ ways, groups }, templates));
        expect(sum).toBe(groups.flatMap((one) => one.counts).reduce((all, [, count]) => all + count, 0));
        expect(new Set(keys).size).toBe(keys.length);
      }),
      { numRuns: 400 },
    );
  });
});

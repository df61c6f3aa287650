import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { syncSteps } from './sync';

const map = (hash: string | null) => new Map(hash === null ? [] : [['a', hash]]);

describe('keeping two places in step', () => {
  const table: [
    was: string | null,
    here: string | null,
    there: string | null,
    to: string | null,
    hash: string | null,
  ][] = [
    ['1', '1', '1', null, null],
    ['1', '2', '1', 'there', '2'],
    ['1', '1', '2', 'here', '2'],
    ['1', '2', '2', null, null],
    ['1', '2', '3', 'conflict', '3'],
    ['1', null, '1', 'there', null],
    ['1', '1', null, 'here', null],
    ['1', null, null, null, null],
    ['1', null, '2', 'conflict', '2'],
    ['1', '2', null, 'conflict', null],
    [null, '1', null, 'there', '1'],
    [null, null, '1', 'here', '1'],
    [null, '1', '2', 'conflict', '2'],
  ];
  for (const [was, here, there, to, hash] of table)
    it(`was ${was}, here ${here}, there ${there}: ${to ?? 'nothing'}`, () => {
      expect(syncSteps(map(was), map(here), map(there))).toEqual(to === null ? [] : [{ path: 'a', to, hash }]);
    });
  it('never removes what only one side knows, and ends the same but for conflicts', () => {
    const hashes = fc
      .dictionary(fc.constantFrom('a', 'b', 'c', 'd'), fc.constantFrom('1', '2', '3'))
      .map((one) => new Map<string, string>(Object.entries(one)));
    fc.assert(
      fc.property(hashes, hashes, hashes, (both, here, there) => {
        const [left, right] = [new Map(here), new Map(there)];
        const conflicts = new Set<string>();
        for (const { path, to, hash } of syncSteps(both, here, there)) {
          if (to === 'conflict') conflicts.add(path);
          else {
            const side = to === 'here' ? left : right;
            // What is overwritten is what both had: it is not lost.
            expect(side.get(path) ?? null).toBe(both.get(path) ?? null);
            if (hash === null) side.delete(path);
            else side.set(path, hash);
          }
        }
        const rest = (of: Map<string, string>) => [...of].filter(([path]) => !conflicts.has(path)).sort();
        expect(rest(left)).toEqual(rest(right));
      }),
    );
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mergeShelves } from './merge';

type Entry = Record<string, unknown> & { id: string };
const file = (placements: Entry[]) => JSON.stringify({ placements }, null, 2);
const a: Entry = { id: 'a', shelf: 's', piece: 'pieces/a', inputs: { text: 'one', n: 1 } };
const b: Entry = { id: 'b', shelf: 's', piece: 'pieces/b' };
const c: Entry = { id: 'c', shelf: 's', piece: 'pieces/c' };
const with_ = (one: Entry, more: object): Entry => ({ ...one, ...more });
const placements = (text: string) => (JSON.parse(text) as { placements: Entry[] }).placements;

describe('what two made of the shelves', () => {
  it.each<[name: string, mine: Entry[], theirs: Entry[], wanted: Entry[], both: string[]]>([
    ['both added', [a, b, c], [a, b, with_(c, { id: 'd' })], [a, b, with_(c, { id: 'd' }), c], []],
    [
      'two inputs of one changed',
      [with_(a, { inputs: { text: 'two', n: 1 } }), b],
      [with_(a, { inputs: { text: 'one', n: 9 } }), b],
      [with_(a, { inputs: { text: 'two', n: 9 } }), b],
      [],
    ],
    [
      'an input emptied, days set',
      [with_(a, { inputs: { n: 1 } }), b],
      [with_(a, { from: '2026-12-01' }), b],
      [with_(a, { inputs: { n: 1 }, from: '2026-12-01' }), b],
      [],
    ],
    ['one removed, one changed', [a], [with_(a, { hidden: true }), b], [with_(a, { hidden: true })], []],
    ['moved here, added there', [b, a], [a, b, c], [b, c, a], []],
    ['added here, moved there', [a, b, c], [b, a], [b, c, a], []],
    [
      'the same input changed',
      [with_(a, { inputs: { text: 'two', n: 1 } }), b],
      [with_(a, { inputs: { text: 'three', n: 1 } }), b],
      [with_(a, { inputs: { text: 'two', n: 1 } }), b],
      ['a'],
    ],
    [
      'moved to two shelves',
      [with_(a, { shelf: 'x' }), b],
      [with_(a, { shelf: 'y' }), b],
      [with_(a, { shelf: 'x' }), b],
      ['a'],
    ],
    ['removed here, changed there', [b], [with_(a, { hidden: true }), b], [b], ['a']],
    ['what it stood beside is gone', [a], [a, b, with_(c, { after: 'b' })], [a, c], []],
  ])('%s', (_, mine, theirs, wanted, both) => {
    const merged = mergeShelves(file([a, b]), file(mine), file(theirs));
    expect(merged?.both).toEqual(both);
    expect(placements(merged?.mine ?? '')).toEqual(wanted);
  });

  it('what both put there under one id is two, each with what stands on its shelves', () => {
    const box = (id: string, text: string): Entry => ({ id, shelf: 's', piece: 'pieces/box', inputs: { text } });
    const mine = [
      a,
      box('box', 'mine'),
      { id: 'in', shelf: 'box/left', piece: 'pieces/t' },
      with_(c, { after: 'box' }),
    ];
    const merged = mergeShelves(file([a]), file(mine), file([a, box('box', 'theirs')]));
    expect(merged?.both).toEqual([]);
    expect(placements(merged?.mine ?? '')).toEqual([
      a,
      box('box', 'theirs'),
      box('box-2', 'mine'),
      { id: 'in', shelf: 'box-2/left', piece: 'pieces/t' },
      with_(c, { after: 'box-2' }),
    ]);
  });

  it('gives the other side of what both changed too', () => {
    const mine = [with_(a, { inputs: { text: 'two', n: 1 } }), with_(b, { hidden: true })];
    const theirs = [with_(a, { inputs: { text: 'three', n: 2 } }), b];
    expect(placements(mergeShelves(file([a, b]), file(mine), file(theirs))?.theirs ?? '')).toEqual([
      with_(a, { inputs: { text: 'three', n: 2 } }),
      with_(b, { hidden: true }),
    ]);
  });

  it('without what both began with keeps what either has', () =>
    expect(placements(mergeShelves(null, file([a]), file([b]))?.mine ?? '').map(({ id }) => id)).toEqual(['b', 'a']));

  it.each([
    ['not JSON', '{"placements": [', file([a])],
    ['no ids', file([a]), '{"placements": [{"shelf": "s", "piece": "pieces/a"}]}'],
    ['another key', file([with_(a, { colour: 'red' })]), file([a])],
    ['no placements at all', '{}', file([a])],
  ])('is left to be looked at: %s', (_, mine, theirs) => expect(mergeShelves(file([a]), mine, theirs)).toBeNull());

  const entry = fc.record({
    id: fc.constantFrom('a', 'b', 'c', 'd'),
    shelf: fc.constantFrom('s', 't'),
    piece: fc.constant('pieces/a'),
    inputs: fc.record({ text: fc.constantFrom('one', 'two'), n: fc.nat(2) }, { requiredKeys: [] }),
  });
  const entries = fc.uniqueArray(entry, { selector: ({ id }) => id, maxLength: 4 });
  it('is the other’s where one changed nothing, and the same whoever is asked (2,000 files)', () =>
    fc.assert(
      fc.property(entries, entries, (was, one) => {
        const [before, after] = [file(was), file(one)];
        expect(placements(mergeShelves(before, before, after)?.mine ?? '')).toEqual(one);
        expect(placements(mergeShelves(before, after, before)?.mine ?? '')).toEqual(one);
        expect(placements(mergeShelves(before, after, after)?.mine ?? '')).toEqual(one);
      }),
      { numRuns: 2000, seed: 20_261_130 },
    ));
});

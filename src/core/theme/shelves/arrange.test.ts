import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  arrangementOf,
  CannotArrange,
  duplicated,
  movedTo,
  newId,
  type Placed,
  removedFrom,
  withKeys,
  writeArrangement,
} from './arrange';
import { readShelves } from './index';

const below: Placed[] = ['a', 'b', 'c', 'd', 'e', 'f'].map((id, at) => ({
  ...{ id, shelf: at < 4 ? 'top' : 'bottom', piece: `pieces/${id}` },
  inputs: { text: id, n: at },
}));

/** What differs to a reader: order on each shelf, and every key. Hidden ones of the layers below may stand anywhere. */
const seen = (all: readonly { id?: string | undefined; shelf: string; hidden?: boolean | undefined }[]) =>
  Object.fromEntries(
    [...new Set(all.map(({ shelf }) => shelf))]
      .sort()
      .map((shelf) => [shelf, all.filter((one) => one.shelf === shelf && !one.hidden)]),
  );

type Step = (all: Placed[], pick: (count: number) => number) => Placed[];
const idAt = (all: Placed[], at: number) => (all[at] as Placed).id;
const steps: Step[] = [
  (all, pick) => {
    const one: Placed = {
      id: newId('pieces/new', new Set(all.map(({ id }) => id))),
      shelf: ['top', 'bottom', 'third'][pick(3)] as string,
      piece: 'pieces/new',
      inputs: {},
    };
    const at = pick(all.length + 1);
    return all.toSpliced(at, 0, one);
  },
  (all, pick) => {
    if (!all.length) return all;
    const id = idAt(all, pick(all.length));
    const shelf = ['top', 'bottom', 'third'][pick(3)] as string;
    const there = all.filter((one) => one.shelf === shelf && one.id !== id);
    const at = pick(there.length + 1);
    return movedTo(all, id, shelf, there[at]?.id ?? null);
  },
  (all, pick) => (all.length ? removedFrom(all, idAt(all, pick(all.length)), below) : all),
  (all, pick) => (all.length ? duplicated(all, idAt(all, pick(all.length))) : all),
  (all, pick) => {
    if (!all.length) return all;
    const at = pick(all.length);
    const changes = [
      { inputs: { text: 'other' } },
      { inputs: {} },
      { from: '2026-12-01', to: '2026-12-24', yearly: true },
      { from: undefined, to: undefined, yearly: undefined },
      { hidden: true },
      { hidden: undefined },
      { kind: 'product' as const, subject: undefined },
      { subject: 'product/oil', kind: undefined },
    ][pick(8)] as Partial<Placed>;
    return all.with(at, withKeys(all[at] as Placed, changes));
  },
];

describe('what is arranged', () => {
  it('is what the written file gives over the layers below, whatever was done (2,000 sequences)', () =>
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(4), fc.infiniteStream(fc.nat(999))), { maxLength: 12 }), (done) => {
        let all: Placed[] = [...below];
        for (const [kind, tape] of done)
          all = (steps[kind] as Step)(all, (count) => (tape.next().value as number) % count);
        const text = writeArrangement(all, below);
        const read = readShelves(text, below);
        expect(read.wrong).toEqual([]);
        expect(seen(read.entries)).toEqual(seen(all));
        // Arranged and written again it is the same file.
        expect(writeArrangement(arrangementOf(text, below), below)).toBe(text);
      }),
      { numRuns: 2000, seed: 20_261_129 },
    ));

  it.each<[string, (all: Placed[]) => Placed[], object[] | null]>([
    ['nothing', (all) => all, null],
    [
      'an input of one below',
      (all) => all.with(1, withKeys(all[1] as Placed, { inputs: { text: 'x', n: 1 } })),
      [{ id: 'b', inputs: { text: 'x' } }],
    ],
    [
      'an input removed',
      (all) => all.with(1, withKeys(all[1] as Placed, { inputs: { text: 'b' } })),
      [{ id: 'b', inputs: { n: null } }],
    ],
    ['one below moved up', (all) => movedTo(all, 'c', 'top', 'a'), [{ id: 'c', before: 'a' }]],
    ['one below moved on', (all) => movedTo(all, 'a', 'top', 'd'), [{ id: 'a', after: 'c' }]],
    [
      'one below moved to another shelf',
      (all) => movedTo(all, 'a', 'bottom', 'f'),
      [{ id: 'a', shelf: 'bottom', after: 'e' }],
    ],
    ['one below removed', (all) => removedFrom(all, 'b', below), [{ id: 'b', hidden: true }]],
    [
      'a copy',
      (all) => duplicated(all, 'b', { subject: 'product/oil' }),
      [{ id: 'b-2', shelf: 'top', piece: 'pieces/b', inputs: { text: 'b', n: 1 }, subject: 'product/oil', after: 'b' }],
    ],
  ])('%s is written so', (_, change, placements) => {
    const text = writeArrangement(change([...below]), below);
    expect(text && JSON.parse(text)).toEqual(placements && { placements });
  });

  it('an update below flows through: what the shop does not say changes, its own stays', () => {
    const text = writeArrangement(movedTo(removedFrom([...below], 'b', below), 'c', 'top', 'a'), below);
    const later = [
      ...below.map((one) => ({ ...one, inputs: { ...one.inputs, text: 'new' } })),
      { id: 'g', shelf: 'top', piece: 'pieces/g', inputs: {} },
    ];
    const top = arrangementOf(text, later).filter(({ shelf, hidden }) => shelf === 'top' && !hidden);
    expect(top.map(({ id, inputs }) => `${id} ${String(inputs.text ?? '')}`.trim())).toEqual([
      'c new',
      'a new',
      'd new',
      'g',
    ]);
  });

  const nested: Placed[] = [
    { id: 'box', shelf: 'top', piece: 'pieces/box', inputs: {} },
    { id: 'text', shelf: 'box/left', piece: 'pieces/text', inputs: {} },
    { id: 'inner', shelf: 'box/right', piece: 'pieces/box', inputs: {} },
    { id: 'deep', shelf: 'inner/left', piece: 'pieces/text', inputs: {} },
    { id: 'other', shelf: 'top', piece: 'pieces/text', inputs: {} },
  ];
  const places = (all: readonly Placed[]) => all.map(({ id, shelf, hidden }) => `${shelf}>${id}${hidden ? ' -' : ''}`);
  it.each<[string, Placed[], string[]]>([
    ['removed with all that is in it', removedFrom(nested, 'box', []), ['top>other']],
    [
      'hidden where it is of a layer below, and keeps what is in it',
      removedFrom(nested, 'box', [nested[0] as Placed]),
      ['top>box -', 'box/left>text', 'box/right>inner', 'inner/left>deep', 'top>other'],
    ],
    [
      'doubled with all that is in it',
      duplicated(nested, 'inner'),
      [
        ...['top>box', 'box/left>text', 'box/right>inner', 'box/right>box-2'],
        ...['inner/left>deep', 'box-2/left>text-2', 'top>other'],
      ],
    ],
    ['never put into itself', movedTo(nested, 'box', 'inner/right', null), places(nested)],
    [
      'moved into another',
      movedTo(nested, 'other', 'inner/right', null),
      ['top>box', 'box/left>text', 'box/right>inner', 'inner/left>deep', 'inner/right>other'],
    ],
  ])('what has shelves of its own is %s', (_, all, wanted) => expect(places(all)).toEqual(wanted));

  it('a file without ids gets them, and still stands in place of those below', () => {
    const own = JSON.stringify({
      placements: [
        { shelf: 'top', piece: 'pieces/x' },
        { shelf: 'top', piece: 'pieces/x' },
      ],
    });
    const all = arrangementOf(own, below);
    expect(all.filter(({ hidden }) => !hidden).map(({ id }) => id)).toEqual(['x', 'x-2']);
    const again = readShelves(writeArrangement(all, below), below).entries;
    expect(again.filter(({ hidden }) => !hidden).map(({ id }) => id)).toEqual(['x', 'x-2']);
  });

  it.each([
    ['{"placements": [{"id": "x", "shelf": "top"}]}', below, /has a mistake/],
    ['{"placements": [', below, /not valid JSON/],
    [null, [{ ...below[0], id: undefined } as never], /without an id/],
  ])('what could be lost is refused: %s', (own, under, says) => {
    expect(() => arrangementOf(own, under)).toThrow(CannotArrange);
    expect(() => arrangementOf(own, under)).toThrow(says);
  });

  it.each([
    ['pieces/row/banner', [], 'banner'],
    ['pieces/row/banner', ['banner', 'banner-2'], 'banner-3'],
    ['pieces/Größe', [], 'gr-e'],
    ['pieces/__', [], 'piece'],
  ])('the id of %s beside %j is %s', (piece, taken, id) => expect(newId(piece, new Set(taken))).toBe(id));
});

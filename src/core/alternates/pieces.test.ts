import { describe, expect, it } from 'vitest';
import { asSubject } from '../catalogue/subject';
import type { Template } from '../language/1-parse/nodes';
import type { Value } from '@/core/language';
import type { Alternates } from './alternates';
import { chooser } from './choose';
import { pieceChooser, pieceTried, subjectInput } from './pieces';

const takes = (...inputs: [name: string, type: string][]): Pick<Template, 'takes'> => ({
  takes: inputs.map(([name, type]) => ({ name, type }) as Template['takes'][number]),
});

describe('the subject of a piece', () => {
  const table: [inputs: [string, string][], found: { name: string; kind: string } | null][] = [
    [[['product', 'Product']], { name: 'product', kind: 'product' }],
    [
      [
        ['variant', 'Variant'],
        ['of', 'Product'],
        ['in', 'Category'],
      ],
      { name: 'of', kind: 'product' },
    ],
    [[['here', 'Category']], { name: 'here', kind: 'category' }],
    [[['listing', 'Listing']], { name: 'listing', kind: 'listing' }],
    [[['page', 'Content']], { name: 'page', kind: 'content' }],
    [[['post', 'Article']], { name: 'post', kind: 'article' }],
    [[['products', 'List of Product']], null],
    [
      [
        ['variant', 'Variant'],
        ['note', 'text'],
      ],
      null,
    ],
    [[], null],
  ];
  for (const [inputs, found] of table)
    it(inputs.map((one) => one.join(': ')).join(', ') || 'no inputs', () =>
      expect(subjectInput(takes(...inputs))).toEqual(found),
    );
});

describe('which template is drawn in the place of a piece', () => {
  const tile = { kind: 'product', piece: 'pieces/tile' } as const;
  const all: Alternates = {
    alternates: [
      { ...tile, name: 'book', label: 'Book', note: '', types: [] },
      { ...tile, name: 'wide', label: 'Wide', note: '', types: [] },
      { kind: 'product', name: 'book', label: 'Book', note: '', types: [] },
    ],
    pins: [{ ...tile, slug: 'knots', alternate: 'wide' }],
    rules: [
      {
        ...tile,
        id: 'books',
        alternate: 'book',
        when: { fact: 'type', test: 'is', value: ['book'] },
        from: null,
        to: null,
        note: '',
      },
    ],
  };
  const templates = {
    template: (name: string) =>
      ({ 'pieces/tile': takes(['product', 'Product'], ['eager', 'flag']), 'pieces/row': takes(['heading', 'text']) })[
        name
      ] ?? null,
  };
  const choose = chooser(
    all,
    () => true,
    '2026-11-26',
    () => [],
  );
  const given = (slug: string, type: string, kind: 'product' | 'category' = 'product'): Record<string, Value> => ({
    $product: {
      [asSubject]: () => ({ kind, slug, facts: ({ fact }: { fact: string }) => (fact === 'type' ? type : null) }),
    } as unknown as Value,
  });
  const drawn = (piece: string, inputs: Record<string, Value>, tried: string | null = null) =>
    pieceChooser(all, choose, templates, tried)?.(piece, inputs);

  const table: [name: string, piece: string, inputs: Record<string, Value>, tried: string | null, gets: string][] = [
    ['by a rule', 'pieces/tile', given('splice', 'book'), null, 'pieces/tile/book'],
    ['by a pin before a rule', 'pieces/tile', given('knots', 'book'), null, 'pieces/tile/wide'],
    ['the piece itself for others', 'pieces/tile', given('hemp', 'rope'), null, 'pieces/tile'],
    ['another piece stays', 'pieces/row', given('splice', 'book'), null, 'pieces/row'],
    ['without its subject it stays', 'pieces/tile', {}, null, 'pieces/tile'],
    ['a subject of another kind is none', 'pieces/tile', given('splice', 'book', 'category'), null, 'pieces/tile'],
    ['tried goes before all', 'pieces/tile', given('splice', 'book'), 'pieces/tile/wide', 'pieces/tile/wide'],
    ['what is tried of a page is not the piece’s', 'pieces/tile', given('hemp', 'rope'), 'book', 'pieces/tile'],
  ];
  for (const [name, piece, inputs, tried, gets] of table)
    it(name, () => expect(drawn(piece, inputs, tried)).toBe(gets));

  it('is not asked where no piece has alternates, or its piece takes no subject any more', () => {
    const none = { alternates: [], pins: [], rules: [] };
    expect(pieceChooser(none, choose, templates)).toBeNull();
    const gone = { template: () => takes(['text', 'text']) };
    expect(pieceChooser(all, choose, gone)).toBeNull();
    expect(pieceChooser(all, choose, { template: () => takes(['here', 'Category']) })).toBeNull();
  });

  it('is tried by its whole name', () => {
    expect(pieceTried(all, 'pieces/tile/book')).toEqual({ ...tile, name: 'book' });
    for (const other of ['book', 'product/book', 'pieces/tile', 'pieces/tile/none', null])
      expect(pieceTried(all, other)).toBeNull();
  });
});

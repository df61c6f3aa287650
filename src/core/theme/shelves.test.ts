import { describe, expect, it } from 'vitest';
import { Html, record } from '@/core/language';
import { pageOf, strict, themeOf } from '../language/testing/theme-of';
import { placementsOn, readShelves } from './shelves';

const shelf = (placements: object[]) => JSON.stringify({ placements });

describe('what stands on a shelf', () => {
  const { entries } = readShelves(
    shelf([
      { shelf: 's', piece: 'pieces/a' },
      { shelf: 's', piece: 'pieces/b', template: 'product/default' },
      { shelf: 's', piece: 'pieces/c', subject: 'product/rope' },
      { shelf: 's', piece: 'pieces/d', from: '2026-03-01', to: '2026-03-31' },
      { shelf: 'other', piece: 'pieces/e' },
    ]),
  );
  const table: [template: string, subject: string, today: string, pieces: string][] = [
    ['product/default', 'product/rope', '2026-03-15', 'abcd'],
    ['product/default', 'product/oil', '2026-03-01', 'abd'],
    ['product/long', 'product/oil', '2026-03-31', 'ad'],
    ['product/long', 'product/oil', '2026-04-01', 'a'],
    ['category/default', 'category/rope', '2026-02-28', 'a'],
  ];
  for (const [template, subject, today, pieces] of table)
    it(`${template}, ${subject}, ${today}`, () =>
      expect(
        placementsOn(entries, { shelf: 's', template, subject, today })
          .map(({ piece }) => piece.at(-1))
          .join(''),
      ).toBe(pieces));
});

describe('a page with a shelf', () => {
  const files = {
    'product/default.html': '<h1>x</h1><shelf name="s"><p>fallback</p></shelf>',
    'pieces/a.html':
      '<takes name="text" type="text" required><takes name="n" type="number" default="2"><p>{text} {n + 1}</p>',
  };
  const page = (placements: Parameters<typeof placementsOn>[0]) =>
    pageOf(
      themeOf(files),
      { product: record({ summary: 'Sum', description: new Html(''), name: ' ' }) },
      {
        services: {
          phrase: () => null,
          placements: (name) => placementsOn(placements, { shelf: name, template: '', subject: '', today: '' }),
        },
      },
    ).html;
  const one = (inputs: Record<string, unknown>) =>
    readShelves(shelf([{ shelf: 's', piece: 'pieces/a', inputs }])).entries;
  it('shows the pieces, with their inputs', () =>
    expect(page(one({ text: 'T', n: '4' }))).toBe('<h1>x</h1><p>T 5</p>'));
  it('gives a bound input the field of the page’s subject', () =>
    expect(page(one({ text: { field: 'product.summary' } }))).toBe('<h1>x</h1><p>Sum 3</p>'));
  for (const field of ['product.name', 'product.description', 'product.gone', 'category.name'])
    it(`leaves out a piece whose required input is empty: ${field}`, () =>
      expect(page(one({ text: { field } }))).toBe('<h1>x</h1><p>fallback</p>'));
  it('shows its own contents when nothing is placed', () => expect(page([])).toBe('<h1>x</h1><p>fallback</p>'));
});

describe('a shelves.json with mistakes: each is reported at its line, and the rest serves', () => {
  const files = {
    'product/default.html': '<shelf name="below">x</shelf>',
    'pieces/note.html':
      '<takes name="text" type="text" required><takes name="c" type="choice" options="red, blue">{text}{c}',
  };
  const good = '{"shelf": "below", "piece": "pieces/note", "inputs": {"text": "x"}}';
  const table: [entry: string, text: string, fix: string | null][] = [
    [
      '{"shelf": "belwo", "piece": "pieces/note", "inputs": {"text": "x"}}',
      'No template has a shelf “belwo”; did you mean “below”?',
      'below',
    ],
    [
      '{"shelf": "below", "piece": "pieces/ntoe"}',
      'There is no template “pieces/ntoe” in this theme; did you mean “pieces/note”?',
      'pieces/note',
    ],
    ['{"shelf": "below", "piece": "pieces/note"}', '“pieces/note” requires the input “text”', null],
    [
      '{"shelf": "below", "piece": "pieces/note", "inputs": {"text": "x", "c": "rde"}}',
      '“rde” cannot be read as choice for “c”; did you mean “red”?',
      'red',
    ],
    ['{"shelf": "below", "piece": "pieces/note", "inputs": {"text": "x", "d": "y"}}', 'takes no input “d”', null],
    [
      '{"shelf": "below", "piece": "pieces/note", "inputs": {"text": {"field": "product.sumary"}}}',
      'Product has no field “sumary”; did you mean “summary”?',
      null,
    ],
    ['{"shelf": "below", "piece": "pieces/note", "inputs": {"text": "x"}, "from": "soon"}', 'placements[1].from', null],
    ['{"shelf": "below"}', 'placements[1].piece', null],
  ];
  for (const [entry, text, fix] of table) {
    it(text, () => {
      const theme = strict({ ...files, 'shelves.json': `{"placements": [\n${good},\n${entry}\n]}` });
      const [first, ...rest] = theme.checkAll().filter((one) => one.code === 'shelf');
      expect(rest).toEqual([]);
      expect([first?.file, first?.line]).toEqual(['shelves.json', 3]);
      expect(first?.message).toContain(text);
      expect(first?.fix?.edits[0]?.text ?? null).toBe(fix);
      expect(theme.shelves.length).toBeGreaterThan(0);
    });
  }
  it('what is not valid JSON', () =>
    expect(readShelves('{"placements": [').wrong[0]?.text).toBe(
      'shelves.json is not valid JSON: a closing bracket ] is missing at its end',
    ));
  it('what holds no list', () => expect(readShelves('{}').wrong[0]?.text).toContain('“placements”'));
});

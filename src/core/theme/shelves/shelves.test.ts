import { describe, expect, it } from 'vitest';
import { Html, record } from '@/core/language';
import { pageOf, strict, themeOf } from '../../language/testing/theme-of';
import { placementsOn, readShelves, type ShelfEntry, type ShelvesPage } from './index';

const at: ShelvesPage = { template: '', subject: '', kind: null, today: '', locales: ['en-GB'], holds: () => false };
const shelf = (placements: object[]) => JSON.stringify({ placements });

describe('what stands on a shelf', () => {
  const { entries } = readShelves(
    shelf([
      { shelf: 's', piece: 'pieces/a' },
      { shelf: 's', piece: 'pieces/b', template: 'product/default' },
      { shelf: 's', piece: 'pieces/c', subject: 'product/rope' },
      { shelf: 's', piece: 'pieces/d', from: '2026-03-01', to: '2026-03-31' },
      { shelf: 'other', piece: 'pieces/e' },
      { shelf: 's', piece: 'pieces/y', from: '2026-12-01', to: '2027-01-06', yearly: true },
    ]),
  );
  const table: [template: string, subject: string, today: string, pieces: string][] = [
    ['product/default', 'product/rope', '2026-03-15', 'abcd'],
    ['product/default', 'product/oil', '2026-03-01', 'abd'],
    ['product/long', 'product/oil', '2026-03-31', 'ad'],
    ['product/long', 'product/oil', '2026-04-01', 'a'],
    ['category/default', 'category/rope', '2026-02-28', 'a'],
    ['category/default', 'category/rope', '2026-12-01', 'ay'],
    ['category/default', 'category/rope', '2031-01-06', 'ay'],
    ['category/default', 'category/rope', '2031-01-07', 'a'],
  ];
  for (const [template, subject, today, pieces] of table)
    it(`${template}, ${subject}, ${today}`, () =>
      expect(
        placementsOn(entries, 's', { ...at, template, subject, today })
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
          placements: (name) => placementsOn(placements, name, at),
        },
      },
    ).html;
  it('has each placement’s own shelves to itself, in one another too; drawn by a template it has none', () => {
    const box = '<placeable label="Box"><div><shelf name="in">empty</shelf></div>';
    const theme = themeOf({
      'product/default.html': '<shelf name="s"></shelf><draw name="pieces/box"/>',
      'pieces/box.html': box,
      'pieces/frame.html': '<placeable label="Frame"><draw name="pieces/rim"><shelf name="in"></shelf></draw>',
      'pieces/rim.html': '<b><gap></gap></b>',
      'pieces/t.html': '<takes name="text" type="text"><i>{text}</i>',
    });
    const text = (id: string, of: string) => ({ id, shelf: of, piece: 'pieces/t', inputs: { text: id } });
    const { entries } = readShelves(
      shelf([
        { id: 'a', shelf: 's', piece: 'pieces/box' },
        { id: 'b', shelf: 's', piece: 'pieces/box' },
        { id: 'c', shelf: 'b/in', piece: 'pieces/frame' },
        text('one', 'a/in'),
        text('two', 'c/in'),
        text('three', 'b/in'),
        text('nowhere', 'in'),
      ]),
    );
    const { html } = pageOf(
      theme,
      {},
      { services: { phrase: () => null, placements: (name) => placementsOn(entries, name, at) } },
    );
    expect(html).toBe('<div><i>one</i></div><div><b><i>two</i></b><i>three</i></div><div>empty</div>');
  });
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

describe('the files of several layers', () => {
  const base = shelf([
    { id: 'hero', shelf: 's', piece: 'pieces/a', inputs: { text: 'one', n: 1 } },
    { id: 'new', shelf: 's', piece: 'pieces/b' },
    { id: 'last', shelf: 's', piece: 'pieces/c' },
  ]);
  const merged = (...uppers: object[][]) =>
    uppers.reduce<readonly ShelfEntry[]>(
      (below, entries) => readShelves(shelf(entries), below).entries,
      readShelves(base).entries,
    );
  const shown = (...uppers: object[][]) =>
    merged(...uppers)
      .map(({ id, piece, hidden }) => `${id ?? ''}:${piece.at(-1)}${hidden ? '-' : ''}`)
      .join(' ');
  const table: [name: string, uppers: object[][], shown: string][] = [
    ['none above', [], 'hero:a new:b last:c'],
    ['a new one comes last', [[{ id: 'own', shelf: 's', piece: 'pieces/d' }]], 'hero:a new:b last:c own:d'],
    ['… before another', [[{ id: 'own', shelf: 's', piece: 'pieces/d', before: 'new' }]], 'hero:a own:d new:b last:c'],
    ['… after another', [[{ id: 'own', shelf: 's', piece: 'pieces/d', after: 'hero' }]], 'hero:a own:d new:b last:c'],
    ['one of below in another piece', [[{ id: 'new', piece: 'pieces/d' }]], 'hero:a new:d last:c'],
    ['one of below moved', [[{ id: 'last', before: 'hero' }]], 'last:c hero:a new:b'],
    ['one of below hidden', [[{ id: 'new', hidden: true }]], 'hero:a new:b- last:c'],
    ['… and shown again', [[{ id: 'new', hidden: true }], [{ id: 'new', hidden: false }]], 'hero:a new:b last:c'],
    [
      'two layers above',
      [[{ id: 'own', shelf: 's', piece: 'pieces/d' }], [{ id: 'own', after: 'hero' }]],
      'hero:a own:d new:b last:c',
    ],
    [
      'one without an id among others',
      [
        [
          { id: 'new', hidden: true },
          { shelf: 's', piece: 'pieces/d' },
        ],
      ],
      'hero:a new:b- last:c :d',
    ],
    ['a file without ids stands in place of those below', [[{ shelf: 's', piece: 'pieces/d' }]], ':d'],
    ['an empty file changes nothing', [[]], 'hero:a new:b last:c'],
  ];
  it.each(table)('%s', (_, uppers, wanted) => expect(shown(...uppers)).toBe(wanted));

  it('inputs are changed one by one; null removes a key or an input', () => {
    const entries = merged(
      [{ id: 'hero', inputs: { text: 'two' }, from: '2026-01-01', template: 'home/default' }],
      [{ id: 'hero', inputs: { n: null }, from: null }],
    );
    expect(entries[0]).toEqual({
      id: 'hero',
      shelf: 's',
      piece: 'pieces/a',
      inputs: { text: 'two' },
      template: 'home/default',
    });
  });
  it('what is hidden stands on no page', () => {
    const page = { ...at, template: 'home/default', today: '2026-01-01' };
    const pieces = placementsOn(merged([{ id: 'new', hidden: true }]), 's', page).map(({ piece }) => piece);
    expect(pieces).toEqual(['pieces/a', 'pieces/c']);
  });
  const wrong: [name: string, entries: object[], text: string][] = [
    [
      'an id twice in one file',
      [{ id: 'new' }, { id: 'new' }],
      'placements[1].id: another placement of this file is “new” too',
    ],
    [
      'beside one that is not there',
      [{ id: 'new', after: 'gone' }],
      'placements[0].after: there is no placement “gone” here or in a layer below',
    ],
    ['a new one without a piece', [{ id: 'own', shelf: 's' }], 'placements[0].piece is missing'],
    ['an id with blanks', [{ id: 'my own' }], 'placements[0].id: small letters, digits and single hyphens'],
  ];
  it.each(wrong)('%s is reported', (_, entries, text) =>
    expect(readShelves(shelf(entries), readShelves(base).entries).wrong.map((one) => one.text)).toEqual([text]),
  );

  it('each problem is reported in the layer that wrote it, and once', () => {
    const files = {
      'product/default.html': '<shelf name="s"></shelf>',
      'pieces/a.html': '<takes name="text" type="text" required>{text}',
    };
    const theme = strict([
      { ...files, 'shelves.json': shelf([{ id: 'a', shelf: 's', piece: 'pieces/a' }]) },
      { 'shelves.json': shelf([{ id: 'a', inputs: { txet: 'x', text: 'y' } }]) },
    ]);
    const problems = theme.checkAll().filter((one) => one.code === 'shelf');
    expect(problems.map(({ layer, message }) => [layer, message])).toEqual([
      ['base', '“pieces/a” requires the input “text”'],
      ['shop', '“pieces/a” takes no input “txet”; did you mean “text”?'],
    ]);
    expect(theme.shelves).toEqual([{ id: 'a', shelf: 's', piece: 'pieces/a', inputs: { txet: 'x', text: 'y' } }]);
  });
  it('pieces that a shelf takes are not unused', () => {
    const pieces = { 'pieces/row/a.html': 'a', 'pieces/b.html': 'b', 'pieces/c.html': 'c' };
    const theme = strict({ ...pieces, 'home/default.html': '<shelf name="s" takes="pieces/row/*, pieces/b"></shelf>' });
    expect(theme.checkAll().map(({ code, file }) => [code, file])).toEqual([['unused-piece', 'pieces/c.html']]);
  });
});

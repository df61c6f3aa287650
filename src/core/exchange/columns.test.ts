import { describe, expect, it } from 'vitest';
import { guessColumns, readTarget, sameHeadings, writeTarget, type ColumnContext } from './columns';
import { slugOf } from './slug';
import { delimiterOf, encodingOf } from './table-file';

const shop: ColumnContext = {
  locales: ['en', 'fr', 'de-CH'],
  options: [{ slug: 'diameter', name: 'Diameter' }],
  fields: [{ key: 'breaking_load', name: 'Breaking load' }],
  attributes: ['Lay'],
};
const guessed = (headings: string[], sample: string[][] = [], context = shop) =>
  guessColumns(headings, sample, context).map(({ target, by }) => `${target ?? '-'} ${by}`);

describe('what columns are taken for', () => {
  const table: [name: string, headings: string[], targets: string[]][] = [
    [
      'our own headings',
      [
        'product',
        'name',
        'name@fr',
        'price',
        'option:colour',
        'field:breaking_load',
        'field:breaking_load@fr',
        'attribute:Lay',
      ],
      'product name name@fr price option:colour field:breaking_load field:breaking_load@fr attribute:Lay'
        .split(' ')
        .map((one) => `${one} heading`),
    ],
    [
      'German',
      ['Artikelnr.', 'Bezeichnung', 'VK-Preis', 'Warengruppe', 'Größe'],
      ['sku word', 'name word', 'price word', 'categories word', 'option:size word'],
    ],
    [
      'French',
      ['Référence', 'Désignation', 'Prix TTC', 'Rayon', 'Couleur'],
      ['sku word', 'name word', 'price word', 'categories word', 'option:colour word'],
    ],
    [
      'Spanish',
      ['Código', 'Nombre', 'PVP', 'Existencias', 'Talla'],
      ['sku word', 'name word', 'price word', 'stock word', 'option:size word'],
    ],
    ['in any spelling', ['  ITEM_NAME ', 'Item-No', 'Price (net)'], ['name word', 'sku word', 'price word']],
    [
      'what the shop has',
      ['Breaking load', 'diameter', 'LAY'],
      ['field:breaking_load word', 'option:diameter word', 'attribute:Lay word'],
    ],
    [
      'a further language',
      ['Title', 'Title FR', 'description_fr', 'Summary (de-CH)'],
      ['name word', 'name@fr word', 'description@fr word', 'summary@de-CH word'],
    ],
    ['two that say the same: the first', ['Price', 'Preis'], ['price word', 'attribute:Preis nothing']],
    ['our own before a word for it', ['Preis', 'price'], ['attribute:Preis nothing', 'price heading']],
    ['an unknown one becomes an attribute', ['Glaze', ''], ['attribute:Glaze nothing', '- nothing']],
    ['a language that the shop has not', ['name@it'], ['attribute:name it nothing']],
  ];
  it.each(table)('%s', (_, headings, targets) => expect(guessed(headings)).toEqual(targets));

  it('by values, where headings say nothing', () => {
    // Check digits: GS1 General Specifications, figure 7.9.1-1 has 6291041500213; the other is from memory.
    const sample = [
      ['6291041500213', '€ 3.50', 'img/a.jpg', 'x'],
      ['4006381333931', '€ 12.00', 'img/b.PNG', 'y'],
    ];
    expect(guessed(['A1', 'B2', 'C3', 'D4'], sample)).toEqual([
      'gtin values',
      'price values',
      'pictures values',
      'attribute:D4 nothing',
    ]);
    expect(guessed(['A1'], [['6291041500214'], ['4006381333932']])).toEqual(['attribute:A1 nothing']);
  });
  it('by the rows: which of them are of one product', () => {
    const rows = [
      ['1', 'Mug', 'm'],
      ['1', '', 'n'],
      ['2', 'Bowl', 'm'],
    ];
    expect(guessed(['Knot', 'Name', 'Glaze'], rows)).toEqual([
      'product values',
      'name word',
      'attribute:Glaze nothing',
    ]);
    expect(guessed(['Knot', 'Name', 'Glaze'], [['1', 'Mug', 'm']])[0]).toBe('attribute:Knot nothing');
    expect(
      guessed(
        ['Knot', 'Name'],
        [...rows, ['3', '']].map((row) => row.slice(0, 2)),
      )[0],
    ).toBe('attribute:Knot nothing');
  });
  it.each(['name', 'name@fr', 'option:colour', 'field:lead_time', 'attribute:Height of it', 'was_price'])(
    '%s is read and written',
    (text) => {
      const target = readTarget(text);
      expect(target && writeTarget(target)).toBe(text);
    },
  );
  it.each(['', 'nothing', 'price@fr', 'field:Lead time', 'option:colour@fr', 'name:x'])('“%s” is no column', (text) =>
    expect(readTarget(text)).toBeNull(),
  );
  it('files with the same headings are known again', () =>
    expect(sameHeadings(['b ', 'a'])).toBe(sameHeadings(['a', 'b'])));
});

describe('names in addresses', () => {
  it.each([
    ['Blue cup, large', 'blue-cup-large'],
    ['Größe “M”', 'grosse-m'],
    ['Crème brûlée', 'creme-brulee'],
    ['Ærø & Ødense', 'aero-odense'],
    ["Cook's pot", 'cooks-pot'],
    ['茶', ''],
    ['-', ''],
    ['x'.repeat(100), 'x'.repeat(80)],
  ])('%s', (name, slug) => expect(slugOf(name)).toBe(slug));
});

describe('how a file is written', () => {
  const bytes = (text: string, encoding: BufferEncoding) => new Uint8Array(Buffer.from(text, encoding));
  it.each([
    ['plain', bytes('a;b', 'utf8'), 'utf-8', true],
    ['UTF-8', bytes('Größe', 'utf8'), 'utf-8', true],
    ['UTF-8 cut in a letter', bytes('Grö', 'utf8').subarray(0, 3), 'utf-8', true],
    ['UTF-8 with its mark', bytes('\ufeffa', 'utf8'), 'utf-8', true],
    ['UTF-16 with its mark', bytes('\ufeffa', 'utf16le'), 'utf-16le', true],
    ['UTF-16 the other way round', bytes('\ufeffa', 'utf16le').reverse(), 'utf-16be', false],
    ['UTF-16 without its mark', bytes('a;b;c', 'utf16le'), 'utf-16le', false],
    ['Windows-1252', bytes('Größe', 'latin1'), 'windows-1252', false],
  ])('%s', (name, given, encoding, sure) => {
    const all = name.endsWith('round') ? new Uint8Array([0xfe, 0xff, 0, 97]) : given;
    expect(encodingOf(all)).toEqual({ encoding, sure: name.endsWith('round') ? true : sure });
  });
  it.each([
    ['a,b\n1,2\n', ','],
    ['a;b\n1,5;2\n', ';'],
    ['a\tb\n1\t2\n', '\t'],
    ['a|b,c|d\n1|2|3\n', '|'],
    ['"a;b",c\n"1;2",3\n', ','],
    ['"a\nb";c\n1;2\n', ';'],
    ['one', ','],
  ])('%j', (text, delimiter) => expect(delimiterOf(text)).toBe(delimiter));
});

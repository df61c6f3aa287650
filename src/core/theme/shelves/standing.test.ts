import { describe, expect, it } from 'vitest';
import { leavesOf } from '@/core/alternates';
import type { FieldDefinition } from '@/core/catalogue';
import { Html, record, type Problem } from '@/core/language';
import { pageOf, strict, themeOf } from '../../language/testing/theme-of';
import { checkShelves, notHere, placementsOn, readShelves, type ShelvesPage, textIn } from './index';

const page: ShelvesPage = {
  template: 'category/default',
  subject: 'category/rope',
  kind: 'category',
  today: '2026-12-10',
  locales: ['fr', 'en-GB'],
  holds: (when) => [...leavesOf(when)].every((leaf) => leaf.fact === 'slug'),
};
const one = (entry: object) =>
  readShelves(JSON.stringify({ placements: [{ shelf: 's', piece: 'pieces/a', ...entry }] })).entries[0];

describe('whether a placement stands on a page', () => {
  const slug = { fact: 'slug', test: 'is', value: ['rope'] };
  it.each([
    [{}, null],
    [{ kind: 'category' }, null],
    [{ kind: 'product' }, 'elsewhere'],
    [{ kind: 'category', when: slug }, null],
    [{ kind: 'category', when: { not: [{ fact: 'level', test: 'at-least', value: 2 }] } }, 'condition'],
    [{ kind: 'product', when: slug }, 'elsewhere'],
    [{ subject: 'category/rope', hidden: true }, 'hidden'],
    [{ subject: 'category/cord', hidden: true }, 'elsewhere'],
    [{ template: 'category/long' }, 'elsewhere'],
    [{ from: '2026-12-11' }, 'date'],
    [{ from: '2020-12-01', to: '2020-12-31', yearly: true }, null],
    [{ from: '2026-12-11', kind: 'category', when: slug }, 'date'],
  ])('%j: %s', (entry, why) => expect(notHere(one(entry) as never, page)).toBe(why));
});

// By RFC 4647, section 3.4, as it is read here: from memory.
it.each([
  [{ 'en-GB': 'Colour', fr: 'Couleur' }, ['fr', 'en-GB'], 'Couleur'],
  [{ en: 'Colour' }, ['fr', 'en-GB'], 'Colour'],
  [{ 'en-US': 'Color', de: 'Farbe' }, ['en-GB'], 'Color'],
  [{ 'en-US': 'Color', 'en-GB': 'Colour' }, ['en-GB'], 'Colour'],
  [{ fr: ' ', 'en-GB': 'Colour' }, ['fr', 'en-GB'], 'Colour'],
  [{ en: 'Colour', fr: 'Couleur' }, ['ja', 'de'], 'Colour'],
  [{}, ['fr'], ''],
])('of %j for %j: “%s”', (texts, locales, text) => expect(textIn(texts, locales)).toBe(text));

describe('a shelf of a page', () => {
  const files = {
    'category/default.html': '<shelf name="s" least="2" most="3"><p>own</p></shelf><shelf name="one"></shelf>',
    'pieces/a.html': '<takes name="text" type="text" required><p>{text}</p>',
    'pieces/of.html':
      '<takes name="all" type="List of Product" required><takes name="to" type="link"><a href="{to}"><b do:each="one in all">{one.name}</b></a>',
    'pieces/picture.html': '<takes name="picture" type="picture" required><img src="{picture.url}" alt="">',
  };
  const product = (slug: string) => (slug === 'gone' ? null : record({ name: slug.toUpperCase() }));
  const made = (placements: object[], locales = ['fr', 'en-GB']) => {
    const { entries, wrong } = readShelves(JSON.stringify({ placements }));
    expect(wrong).toEqual([]);
    return pageOf(
      themeOf(files),
      { category: record({ name: 'Rope', description: new Html(''), fields: record({ notice: null }) }) },
      {
        services: {
          phrase: (key) => ({ 'home.new': 'Nouveau', many: { one: 'un', other: 'plusieurs' } })[key] ?? null,
          address: (path) => `/fr${path}`,
          product,
          picture: (path) => (path === 'gone.png' ? null : record({ url: `/media/${path}` })),
          placements: (name) => placementsOn(entries, name, { ...page, locales }),
        },
      },
      'category/default',
    ).html;
  };
  const a = (text: unknown, shelf = 's') => ({ shelf, piece: 'pieces/a', inputs: { text } });
  const texts = { 'en-GB': 'New', fr: 'Neuf' };
  it.each([
    [[], '<p>own</p>'],
    [[a('1')], '<p>own</p>'],
    [[a('1'), a('2')], '<p>1</p><p>2</p>'],
    [[a('1'), a(' '), a('3')], '<p>1</p><p>3</p>'],
    [[a('1'), a(''), a('3'), a('4'), a('5')], '<p>1</p><p>3</p><p>4</p>'],
    [[a({ texts }, 'one')], '<p>own</p><p>Neuf</p>'],
    [[a({ texts: { fr: '' } }, 'one')], '<p>own</p>'],
    [
      [a({ phrase: 'home.new' }, 'one'), a({ phrase: 'many' }, 'one'), a({ phrase: 'none' }, 'one')],
      '<p>own</p><p>Nouveau</p><p>plusieurs</p>',
    ],
    [[a({ field: 'category.name' }, 'one'), a({ field: 'category.fields.notice' }, 'one')], '<p>own</p><p>Rope</p>'],
    [
      [{ shelf: 'one', piece: 'pieces/of', inputs: { all: ['cord', 'gone', 'oil'], to: '/listing/all' } }],
      '<p>own</p><a href="/fr/listing/all"><b>CORD</b><b>OIL</b></a>',
    ],
    [[{ shelf: 'one', piece: 'pieces/of', inputs: { all: ['gone'], to: '/listing/all' } }], '<p>own</p>'],
    [
      [{ shelf: 'one', piece: 'pieces/picture', inputs: { picture: 'loft.png' } }],
      '<p>own</p><img src="/media/loft.png" alt="">',
    ],
    [[{ shelf: 'one', piece: 'pieces/picture', inputs: { picture: 'gone.png' } }], '<p>own</p>'],
  ])('%j', (placements, html) => expect(made(placements)).toBe(html));
  it('speaks the language of the page', () =>
    expect(made([a({ texts }, 'one')], ['en-GB', 'en-GB'])).toBe('<p>own</p><p>New</p>'));
});

describe('what is checked', () => {
  const files: Record<string, string> = {
    'category/default.html': '<shelf name="top" takes="pieces/row/*, pieces/notice" most="2"></shelf>{category.name}',
    'pieces/notice.html': '<placeable label="Notice"><takes name="text" type="text" required><p>{text}</p>',
    'pieces/row/a.html':
      '<placeable label="A" shelves="top"><takes name="n" type="number" least="1" most="9" unit="px"><takes name="all" type="List of Product"><p>{n}{all}</p>',
    'pieces/other.html': '<takes name="text" type="text"><p>{text}</p>',
    'pieces/only.html': '<placeable label="Only" shelves="bottom"><p>x</p>',
    'pieces/row/box.html': '<placeable label="Box"><shelf name="left" takes="pieces/row/*"></shelf>',
    'product/default.html': '<shelf name="bottom"></shelf>{product.name}',
    'words/en-GB.json': '{"notice": "Soon", "home": {"new": "New"}}',
  };
  const said = (more: Record<string, string>) =>
    strict({ ...files, ...more })
      .checkAll()
      .filter(({ code }: Problem) => code === 'shelf' || code === 'takes' || code === 'ignored')
      .map(({ file, line, message }: Problem) => `${file}:${line}: ${message}`);
  const placed = (...entries: object[]) => ({
    'shelves.json': `{"placements": [\n${entries.map((entry) => JSON.stringify({ shelf: 'top', piece: 'pieces/notice', inputs: { text: 'x' }, ...entry })).join(',\n')}\n]}`,
  });
  const boxed = { id: 'boxed', piece: 'pieces/row/box', inputs: {} };
  it('reports nothing where everything is right', () =>
    expect(
      said(
        placed(
          { inputs: { text: { texts: { 'en-GB': 'Until Friday', fr: 'Jusqu’à vendredi' } } } },
          { inputs: { text: { phrase: 'notice' } } },
          { kind: 'category', when: { fact: 'level', test: 'at-least', value: 2 } },
          { id: 'box', piece: 'pieces/row/box', inputs: {} },
          { id: 'within', shelf: 'box/left', piece: 'pieces/row/box', inputs: {} },
          {
            piece: 'pieces/row/a',
            inputs: { n: 9, all: ['cord'] },
            from: '2026-12-01',
            to: '2027-01-06',
            yearly: true,
          },
        ),
      ),
    ).toEqual([]));
  it('takes a custom field for pictures where a picture is wanted, and no other text', () => {
    const field = { unit: '', help: '', choices: [], several: false };
    const definitions = (subject: string): FieldDefinition[] =>
      subject === 'category'
        ? [
            { ...field, key: 'banner', name: 'Banner', type: 'picture' },
            { ...field, key: 'motto', name: 'Motto', type: 'text' },
          ]
        : [];
    const theme = themeOf(
      {
        'category/default.html': '<shelf name="top"></shelf>',
        'pieces/p.html': '<placeable label="P"><takes name="p" type="picture"><img src="{p.url}" alt="" do:when="p">',
      },
      { definitions, site: null },
    );
    const checked = (field: string) =>
      checkShelves(
        JSON.stringify({
          placements: [{ shelf: 'top', piece: 'pieces/p', kind: 'category', inputs: { p: { field } } }],
        }),
        'shop',
        theme,
        { definitions },
      ).map(({ message }) => message);
    expect(checked('category.fields.banner')).toEqual([]);
    expect(checked('category.image')).toEqual([]);
    expect(checked('category.fields.motto')).toEqual(['“p” is Media; “category.fields.motto” is Text']);
  });
  it.each([
    [{ piece: 'pieces/other' }, 'The shelf “top” does not take “pieces/other”'],
    [{ shelf: 'bottom', piece: 'pieces/row/a', inputs: {} }, '“pieces/row/a” is not offered for the shelf “bottom”'],
    [{ shelf: 'botom' }, 'No template has a shelf “botom”; did you mean “bottom”?'],
    [{ shelf: 'box/left' }, 'There is no placement “box” for the shelf “box/left”'],
    [{ shelf: 'first/left' }, '“pieces/notice” has no shelf “left”'],
    [
      { shelf: 'boxed/lfet', piece: 'pieces/row/a', inputs: {} },
      '“pieces/row/box” has no shelf “lfet”; did you mean “boxed/left”?',
    ],
    [{ shelf: 'boxed/left' }, 'The shelf “boxed/left” does not take “pieces/notice”'],
    [{ shelf: 'left' }, 'No template has a shelf “left”'],
    [{ inputs: { text: ['a'] } }, '“text” is one text, not a list'],
    [{ inputs: { text: { phrase: 'notise' } } }, 'There is no phrase “notise”; did you mean “notice”?'],
    [{ piece: 'pieces/row/a', inputs: { n: 10 } }, '“n” is 10: at most 9 px'],
    [
      { piece: 'pieces/row/a', inputs: { n: { texts: { fr: '1' } } } },
      '“n” is a number: it is the same in every language',
    ],
    [
      { when: { fact: 'level', test: 'at-least', value: 2 } },
      'A condition needs the kind of page that it is asked of: “kind”',
    ],
    [
      { kind: 'product', template: 'category/default' },
      'It stands nowhere: “category/default” is no page of the kind “product”',
    ],
    [
      { from: '2026-12-31', to: '2026-12-01' },
      'It never comes: its last day, 2026-12-01, is before its first, 2026-12-31',
    ],
    [{ piece: 'pieces/row/a', inputs: { n: { field: 'category.name' } } }, '“n” is Number; “category.name” is Text'],
    [{ inputs: { text: { field: 'category.nmae' } } }, 'Category has no field “nmae”; did you mean “name”?'],
    [{ inputs: { txt: 'x' } }, '“pieces/notice” takes no input “txt”; did you mean “text”?'],
  ])('%j: %s', (entry, message) =>
    expect(said(placed({ id: 'first' }, entry, boxed))).toContain(`shelves.json:3: ${message}`),
  );
  it.each([
    [
      'category/default.html',
      '<shelf name="top" takes="pieces/notise"></shelf>',
      'There is no piece “pieces/notise”; did you mean “pieces/notice”?',
    ],
    [
      'category/default.html',
      '<shelf name="top" takes="pieces/rows/*"></shelf>',
      'There is no piece in “pieces/rows/*”',
    ],
    [
      'category/default.html',
      '<shelf name="top" most="few"></shelf>',
      '“most” of a <shelf> is a whole number, 1 or more',
    ],
    ['category/default.html', '<shelf name="top" least="3" most="2"></shelf>', 'At most 2 cannot be at least 3'],
    [
      'category/default.html',
      '<placeable label="x">{category.name}',
      '<placeable> offers pieces: a page or layout is not placed',
    ],
    [
      'pieces/notice.html',
      '<placeable help="x"><p>x</p>',
      '<placeable> needs a label: what it is called by those who place it',
    ],
    ['pieces/notice.html', '<placeable label="a"><placeable label="b"><p>x</p>', '<placeable> stands here twice'],
    [
      'pieces/notice.html',
      '<placeable label="a" shelves="topp"><p>x</p>',
      'No template has a shelf “topp”; did you mean “top”?',
    ],
    [
      'pieces/notice.html',
      '<p><placeable label="a">x</p>',
      '<placeable> stands at the top of a file, outside every element',
    ],
    [
      'pieces/notice.html',
      '<placeable label="a" shelfs="top"><p>x</p>',
      '<placeable> takes no “shelfs”, and passes over it; did you mean “shelves”?',
    ],
    ['pieces/notice.html', '<placeable label="{a}"><p>x</p>', '“label” of <placeable> is written out, never a value'],
  ])('%s: %s', (file, text, message) => expect(said({ [file]: text })).toContain(`${file}:1: ${message}`));
});

import { describe, expect, it } from 'vitest';
import { Theme, type Layer } from '@/core/theme/theme';
import { definitionOf, lineAt, renaming, thingAt, usesIn, usesOf, withEdits, type Thing, type Use } from './things';

const layer = (kind: Layer['kind'], name: string, files: Record<string, string>): Layer => ({
  ...{ kind, name, version: '1' },
  files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: `${name} ${path} ${text}`, text }])),
});

const note = `<takes name="text" type="text" required>
<takes name="tone" type="choice" options="calm, loud">
<p class="{tone}" do:mark="note">{text}<gap/><gap name="more"/></p>
`;
const page = `<draw name="layouts/shop" title="{product.name}">
  <draw name="pieces/note" text="{t('note.hello')}" do:when="product.on_sale" do:mark="hello"><fill gap="more">x</fill></draw>
  <img src="{asset('img/a.svg')}" alt="">{icon('star')}
  <nav do:each="item in menu('main').items">{content('delivery').title}</nav>
</draw>
`;
const theme = new Theme([
  layer('base', 'Quay', {
    'layouts/shop.html': '<takes name="title" type="text"><title>{title}</title><gap/>',
    'pieces/note.html': note,
    'product/default.html': page,
    'words/en.json': '{\n  "note": {\n    "hello": "Hello",\n    "bye": "Bye"\n  }\n}\n',
    'assets/img/a.svg': '<svg/>',
    'assets/icons/star.svg': '<svg/>',
  }),
  layer('shop', 'Withy Quay', {
    'product/default.html': '<amend><after mark="hello"><p>more</p></after></amend>',
    'product/rated.html': '<amend of="product/default"><remove mark="hello"></amend>',
    'shelves.json':
      '{ "placements": [{ "shelf": "aside", "piece": "pieces/note", "inputs": { "text": "pieces/note" }, "template": "product/default" }] }',
    'words/en.json': '{ "note": { "bye": "Farewell" } }',
  }),
]);

const said = ({ thing, defines }: Use): string =>
  `${thing.kind} ${thing.of ? `${thing.of}: ` : ''}${thing.name}${defines ? ' (made)' : ''}`;
const textOf = (file: string, of = 'Quay') => theme.layers.find(({ name }) => name === of)?.files.get(file)?.text ?? '';

describe('what a file names', () => {
  const files: [file: string, layer: string, uses: string[]][] = [
    [
      'pieces/note.html',
      'Quay',
      [
        'input pieces/note: text (made)',
        'input pieces/note: tone (made)',
        'input pieces/note: tone',
        'mark pieces/note: note (made)',
        'input pieces/note: text',
        'gap pieces/note: more (made)',
      ],
    ],
    [
      'product/default.html',
      'Quay',
      [
        'piece layouts/shop',
        'input layouts/shop: title',
        'piece pieces/note',
        'input pieces/note: text',
        'phrase note.hello',
        'mark product/default: hello (made)',
        'gap pieces/note: more',
        'asset img/a.svg',
        'icon star',
        'menu main',
        'content delivery',
      ],
    ],
    ['product/default.html', 'Withy Quay', ['mark product/default: hello']],
    ['product/rated.html', 'Withy Quay', ['piece product/default', 'mark product/default: hello']],
    ['shelves.json', 'Withy Quay', ['piece pieces/note', 'piece product/default']],
    ['words/en.json', 'Quay', []],
  ];
  for (const [file, of, uses] of files)
    it(`${file} of ${of}`, () => {
      const text = textOf(file, of);
      const found = usesIn(file, of, text, theme);
      expect(found.map(said)).toEqual(uses);
      for (const { from, to, line, thing, text: written } of found) {
        expect(text.slice(from, to)).toBe(thing.name);
        expect(text.split('\n')[line - 1]?.trim()).toBe(written);
      }
    });

  const inputs = [
    '<p do:each="a in «a»">{a}</p><p>{«a»}</p>',
    '<p do:each="x, a in «a»" class="{a}">{a}<b do:when="a">{a}</b></p>',
    '<p do:let="b = «a»">{«a»}{b}</p>',
    '<p do:let="a = «a»; c = a">{a}{c}</p>',
    '<p do:when="«a»">x</p><p do:or-when="«a»" do:let="a = 1">{a}</p>',
    '<p class="{«a»} {b}">{«a».a | keep(it.a)}</p>',
    '<p do:each="a in range(1, 2)">{a}<b do:each="c in a">{c}{a}</b></p>',
  ];
  for (const shown of inputs)
    it(`the input in ${shown}`, () => {
      const text = `<takes name="«a»" type="list">${shown}`;
      const bare = text.replace(/[«»]/g, '');
      const uses = usesIn('pieces/x.html', 'Withy Quay', bare, theme);
      const edits = uses.filter(({ thing }) => thing.kind === 'input');
      expect(
        withEdits(
          bare,
          edits.map(({ from, to }) => ({ from, to, text: '«a»' })),
        ),
      ).toBe(text);
    });

  it('of a file with mistakes is what can be read of it', () => {
    const uses = usesIn('pieces/x.html', 'Withy Quay', '<p><draw name="pieces/note" text="{t(\'note.bye\')', theme);
    expect(uses.every((use) => ['piece pieces/note', 'phrase note.bye'].includes(said(use)))).toBe(true);
    expect(usesIn('shelves.json', 'Withy Quay', '{ "placements": [ { "piece": ', theme)).toEqual([]);
    expect(usesIn('shelves.json', 'Withy Quay', '[1, 2]', theme)).toEqual([]);
  });
});

describe('a thing', () => {
  const thing = (kind: Thing['kind'], name: string, of = ''): Thing => ({ kind, name, of });

  const made: [Thing, where: string | null][] = [
    [thing('piece', 'pieces/note'), 'pieces/note.html Quay'],
    [thing('piece', 'product/default'), 'product/default.html Withy Quay'],
    [thing('piece', 'pieces/none'), null],
    [thing('asset', 'img/a.svg'), 'assets/img/a.svg Quay'],
    [thing('icon', 'star'), 'assets/icons/star.svg Quay'],
    [thing('input', 'tone', 'pieces/note'), 'pieces/note.html Quay tone" type="choice'],
    [thing('mark', 'hello', 'product/default'), 'product/default.html Quay hello"><fill'],
    [thing('gap', 'more', 'pieces/note'), 'pieces/note.html Quay more"/>'],
    [thing('phrase', 'note.hello'), 'words/en.json Quay "hello": "Hello"'],
    // Of a phrase that the shop has words of its own for, those.
    [thing('phrase', 'note.bye'), 'words/en.json Withy Quay "bye": "Farewell"'],
    [thing('phrase', 'note.none'), null],
    [thing('menu', 'main'), null],
  ];
  for (const [one, where] of made)
    it(`${one.kind} ${one.name} is made ${where === null ? 'in no file' : `in ${where.split(' ')[0]}`}`, () => {
      const found = definitionOf(theme, one);
      expect(found === null).toBe(where === null);
      if (!found || where === null) return;
      const { file, layer: of, from } = found;
      const [start, part = ''] = [`${file} ${of}`, where.slice(`${file} ${of} `.length)];
      expect(where.startsWith(start)).toBe(true);
      expect(textOf(file, of).slice(from, from + part.length)).toBe(part);
    });

  it('is listed in every layer that names it, where it is made first', () => {
    const uses = (one: Thing) => usesOf(theme, one).map((use) => `${use.file} ${use.layer}`);
    expect(uses(thing('mark', 'hello', 'product/default'))).toEqual([
      'product/default.html Quay',
      'product/default.html Withy Quay',
      'product/rated.html Withy Quay',
    ]);
    expect(uses(thing('piece', 'pieces/note'))).toEqual(['product/default.html Quay', 'shelves.json Withy Quay']);
    expect(uses(thing('input', 'text', 'layouts/shop'))).toEqual([]);
  });

  it('is the innermost at an offset, ends included', () => {
    const at = (offset: number) => {
      const found = thingAt(theme, 'product/default.html', 'Quay', page, offset);
      return found && said(found);
    };
    const phrase = page.indexOf('note.hello');
    expect([at(phrase), at(phrase + 'note.hello'.length), at(phrase - 5), at(page.indexOf('alt'))]).toEqual([
      'phrase note.hello',
      'phrase note.hello',
      null,
      null,
    ]);
  });

  it('is given another name at each place, and nothing else is touched', () => {
    const edits = renaming(theme, thing('mark', 'hello', 'product/default'), 'greeting');
    const now = edits.map(({ file, layer: of, edits: list }) => withEdits(textOf(file, of), list));
    expect(edits.map(({ file, layer: of }) => `${file} ${of}`)).toEqual([
      'product/default.html Quay',
      'product/default.html Withy Quay',
      'product/rated.html Withy Quay',
    ]);
    expect(now[0]).toBe(page.replace('do:mark="hello"', 'do:mark="greeting"'));
    expect(now[2]).toBe('<amend of="product/default"><remove mark="greeting"></amend>');
  });
});

describe('a line', () => {
  const text = 'one\n  two  \n\nfour';
  const table: [offset: number, line: number, says: string][] = [
    [0, 1, 'one'],
    [3, 1, 'one'],
    [4, 2, 'two'],
    [11, 2, 'two'],
    [12, 3, ''],
    [13, 4, 'four'],
    [17, 4, 'four'],
  ];
  for (const [offset, line, says] of table)
    it(`at ${offset} is line ${line}`, () => expect(lineAt(text, offset)).toEqual({ line, text: says }));
});

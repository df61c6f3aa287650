import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { applyFix, type SiteFacts } from '@/core/language';
import { Theme, type Layer } from './theme';

const layer = (kind: Layer['kind'], files: Record<string, string>): Layer => ({
  ...{ kind, name: kind, version: '1' },
  files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: text, text }])),
});

/** Problems of a file in the shop's layer, over the base theme; each as “line: what”. */
const problemsOf = (path: string, text: string, below: Record<string, string> = {}) =>
  new Theme([layer('base', below), layer('shop', { [path]: text })]).checkFile(path);
const said = (path: string, text: string, below?: Record<string, string>) =>
  problemsOf(path, text, below).map(({ line, message }) => `${line}: ${message}`);

const site: SiteFacts = {
  ...{ locales: ['en-GB'], contents: new Set<string>(), menus: new Set<string>(), emptiness: () => null },
  named: (object) =>
    new Set(object === 'Option' ? ['colour', 'size'] : object === 'Value' ? ['colour/navy', 'size/8-mm'] : []),
  leads: (path) => path === '/product/deck-oil',
};

it.each([
  [
    'look.json',
    '{\n  "listings": {\n    "category": { "split_by": "colours" }\n  }\n}\n',
    '3: No product has an option “colours”; did you mean “colour”?',
  ],
  [
    'look.json',
    '{"listings": {"category": {\n  "split_by": "colour", "values": ["navy",\n   "navvy"] }}}',
    '3: The option “colour” has no value “navvy”; did you mean “navy”?',
  ],
  [
    'look.json',
    '{"listings": {"tag": {"values": ["navy", "8-mm",\n   "9-mm"] }}}',
    '2: No product has a value “9-mm”; did you mean “8-mm”?',
  ],
  [
    'look.json',
    '{"listings": {"category": {"split_by": "colour", "values_of": {"deck-oil": ["navy"],\n   "deck-oyl": []} }}}',
    '2: There is no product “deck-oyl”',
  ],
  [
    'look.json',
    '{"listings": {"category": {"split_by": "colour", "values_of": {"deck-oil": ["navy",\n   "8-mm"]} }}}',
    '2: The option “colour” has no value “8-mm”',
  ],
  [
    'shelves.json',
    '{"placements": [\n  {"shelf": "s", "piece": "pieces/a",\n   "subject": "product/deck-oyl"}\n]}',
    '3: The shop has no page “/product/deck-oyl”',
  ],
  [
    'shelves.json',
    '{"placements": [\n  {"shelf": "s", "piece": "pieces/a", "subject": "product/deck-oil",\n   "template": "product/defalt"}\n]}',
    '3: There is no template “product/defalt” in this theme; did you mean “product/default”?',
  ],
  [
    'shelves.json',
    '{"placements": [\n  {"shelf": "s", "piece": "pieces/a", "from": "2026-12-01",\n   "yearly": true}\n]}',
    '3: What comes every year needs a first and a last day, “from” and “to”',
  ],
])('%s is held to the shop and the theme: %s', (path, text, says) => {
  const files = { 'product/default.html': '<shelf name="s"/>', 'pieces/a.html': '<p>1</p>' };
  const theme = new Theme([layer('base', files), layer('shop', { [path]: text })], 'en-GB', {
    definitions: null,
    site,
  });
  expect(theme.checkFile(path).map(({ line, message }) => `${line}: ${message}`)).toEqual([says]);
});

it('a place in a phrase of another language that no template fills is told at its line', () => {
  const files = {
    'product/default.html': "<p title=\"{t('a.left', count: 1, all: 2)}\">{t('a.b', name: product.name)}</p>",
    'words/en.json': '{"a": {"b": "By {name}", "left": {"one": "{count} of {all}", "other": "{count} of {all}"}}}',
  };
  const french = (left: string, by = 'Par {name}') =>
    `{\n  "a": {\n    "b": "${by}",\n    "left": { "one": "${left}", "other": "{count} sur {all}" },\n    "c": "{any}"\n  }\n}\n`;
  const told = (text: string) => said('words/fr.json', text, files);
  expect(told(french('{count} sur {all}'))).toEqual([]);
  expect(told(french('{count}', 'Par {nmae}'))).toEqual([
    '3: No template gives “a.b” a value “nmae”; did you mean “{name}”?',
  ]);
  expect(told(french('{compte} sur {all}'))).toEqual(['4: No template gives “a.left” a value “compte”']);
});

describe('a mistake in a file of data is told at its line, and no other line is blamed', () => {
  const look = (settings: string, listings = '{}') =>
    `{\n  "settings": [\n    ${settings}\n  ],\n  "listings": ${listings}\n}\n`;
  const width = '{ "name": "width", "type": "number", "label": "Width", "value": 900, "min": 600, "max": 1400 }';
  const table: [name: string, path: string, text: string, said: string, below?: Record<string, string>][] = [
    [
      'a key of look.json',
      'look.json',
      '{\n  "setings": []\n}',
      '2: setings has no meaning here; did you mean “settings”?',
    ],
    [
      'a key of a setting',
      'look.json',
      look('{ "name": "a", "lable": "A" }'),
      '3: settings[0].lable has no meaning here; did you mean “label”?',
    ],
    ['a setting without a name', 'look.json', look('{ "type": "text" }'), '3: settings[0].name is missing'],
    [
      'a type of settings',
      'look.json',
      look('{ "name": "a", "type": "color" }'),
      '3: settings[0].type must be one of “colour”, “number”, “boolean”, “choice”, “font”, “text”; did you mean “colour”?',
    ],
    [
      'a value out of range',
      'look.json',
      look(width.replace('900', '2000')),
      '3: “width” is 2000: it must be at most 1400',
    ],
    [
      'a value out of the range of a layer below',
      'look.json',
      look('{ "name": "width", "value": 20 }'),
      '3: “width” is 20: it must be at least 600',
      { 'look.json': look(width) },
    ],
    [
      'a text for a number',
      'look.json',
      look('{ "name": "width", "value": "wide" }'),
      '3: “width” must be a number',
      { 'look.json': look(width) },
    ],
    [
      'no colour',
      'look.json',
      look('{ "name": "a", "type": "colour", "value": "navy blue" }'),
      '3: “a” must be a colour, as in “#17324a”',
    ],
    [
      'none of the choices',
      'look.json',
      look('{ "name": "a", "type": "choice", "choices": ["left", "right"], "value": "middle" }'),
      '3: “a” must be one of “left”, “right”',
    ],
    [
      'a kind of listing',
      'look.json',
      look('', '{\n    "catgory": { "columns": 3 }\n  }'),
      '6: listings.catgory has no meaning here; did you mean “category”?',
    ],
    [
      'a setting of listings',
      'look.json',
      look('', '{\n    "tag": {\n      "page_sise": 3 }\n  }'),
      '7: listings.tag.page_sise has no meaning here; did you mean “page_size”?',
    ],
    [
      'a page size out of range',
      'look.json',
      look('', '{\n    "tag": { "page_size": 500 }\n  }'),
      '6: listings.tag.page_size must be at most 200',
    ],
    [
      'half a column',
      'look.json',
      look('', '{\n    "tag": { "columns": 2.5 }\n  }'),
      '6: listings.tag.columns must be a whole number',
    ],
    [
      'a way to sort',
      'look.json',
      look('', '{\n    "tag": { "sort": "prise" }\n  }'),
      '6: listings.tag.sort must be one of “chosen”, “match”, “name”, “price”, “price-down”, “newest”; did you mean “price”?',
    ],
    ['a list for an object', 'look.json', '[]', '1: The file must be an object'],
    [
      'a key of about.json',
      'about.json',
      '{\n  "menues": ["main"]\n}',
      '2: menues has no meaning here; did you mean “menus”?',
    ],
    ['hosts that are not a list', 'about.json', '{\n  "hosts": "a.example"\n}', '2: hosts must be a list'],
    [
      'a player without its mark',
      'about.json',
      '{\n  "players": [\n    { "share": "https://a.example/", "player": "/p" }\n  ]\n}',
      '3: players[0].share says by {id} where the film’s name stands',
    ],
    [
      'a kind of layer',
      'about.json',
      '{\n  "kind": "addon"\n}',
      '2: kind must be one of “base”, “add-on”, “shop”; did you mean “add-on”?',
    ],
    [
      'a number among the words',
      'words/en.json',
      '{\n  "a": {\n    "b": 3\n  }\n}',
      '3: “a.b” must be a text in quotes, or a group of phrases',
    ],
    [
      'a list among the words',
      'words/en.json',
      '{\n  "a": ["x"]\n}',
      '2: “a” must be a text in quotes, or a group of phrases',
    ],
    [
      'a phrase that stands twice',
      'words/en.json',
      '{\n  "a": "x",\n  "a": "y"\n}',
      '3: “a” stands here twice: the later one counts',
    ],
    [
      'plural forms among others',
      'words/en.json',
      '{\n  "a": {\n    "other": "x", "some": "y"\n  }\n}',
      '2: “a” mixes plural forms (zero, one, two, few, many, other) with other names',
    ],
    [
      'a comma too many',
      'look.json',
      '{\n  "settings": [],\n}',
      '3: look.json is not valid JSON: a comma too many stands before “}”',
    ],
    [
      'a key of a placement',
      'shelves.json',
      '{\n  "placements": [\n    { "id": "a", "shelf": "home", "pieces": "pieces/a" }\n  ]\n}',
      '3: placements[0].pieces has no meaning here; did you mean “piece”?',
    ],
    [
      'a day that is none',
      'shelves.json',
      '{\n  "placements": [\n    { "id": "a", "shelf": "home", "piece": "pieces/a", "from": "1 May" }\n  ]\n}',
      '3: placements[0].from must be a day, as in “2026-11-24”',
    ],
    [
      'a further key of a pin, which serves without it',
      'alternates.json',
      '{\n  "pins": [\n    { "kind": "product", "slug": "a", "alternate": "b", "notes": "c" }\n  ]\n}',
      '3: pins[0].notes has no meaning here: kind, piece, slug, alternate have',
    ],
    [
      'a key of a pin',
      'alternates.json',
      '{\n  "pins": [\n    { "kind": "product", "slug": "a", "alternat": "b" }\n  ]\n}',
      '3: pins[0].alternate is missing',
    ],
  ];
  for (const [name, path, text, expected, below] of table)
    it(name, () => expect(said(path, text, below)[0]).toBe(expected));

  it('a key that is nearly another is written by its fix', () => {
    const text = '{\n  "setings": []\n}';
    const [first] = problemsOf('look.json', text);
    expect(first?.fix && applyFix(text, first.fix)).toBe('{\n  "settings": []\n}');
  });
  it('a key has no error, a value has', () => {
    expect(problemsOf('look.json', '{"a": 1}').map((one) => one.severity)).toEqual(['warning']);
    expect(problemsOf('look.json', '{"settings": 1}').map((one) => one.severity)).toEqual(['error']);
  });
});

describe('no false alarm', () => {
  for (const theme of ['quay-1.0', 'quay-1.1', 'plain-1.0', 'quick-find-1.0', 'withy-quay'])
    for (const path of ['about.json', 'look.json', 'words/en.json', 'words/fr.json'])
      it(`${theme} ${path}`, () => {
        let text: string;
        try {
          text = readFileSync(`themes/${theme}/${path}`, 'utf8');
        } catch {
          return expect(path).not.toBe('about.json');
        }
        expect(said(path, text)).toEqual([]);
      });
});

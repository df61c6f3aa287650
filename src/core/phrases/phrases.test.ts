import { describe, expect, it } from 'vitest';
import { Theme, type Layer } from '@/core/theme';
import {
  formsOf,
  fromSheet,
  phrasePlaces,
  phraseTable,
  phraseUses,
  planPhrases,
  textProblem,
  toSheet,
  type PhraseEdit,
} from '.';

const layer = (kind: Layer['kind'], name: string, files: Record<string, unknown>): Layer => ({
  ...{ kind, name, version: '1' },
  files: new Map(
    Object.entries(files).map(([path, value]) => {
      const text = typeof value === 'string' ? value : `${JSON.stringify(value, null, 2)}\n`;
      return [path, { hash: text, text }];
    }),
  ),
});

const base = layer('base', 'Quay', {
  'about.json': { name: 'Quay', language: 'en' },
  'words/en.json': {
    cart: { title: 'Cart', items: { one: '{count} item', other: '{count} items' }, never: 'Never said' },
    hello: 'Hello, {name}',
  },
  'words/fr.json': { cart: { title: 'Panier' } },
  'pieces/cart.html':
    '<takes name="label" type="text"><h2>{t(\'cart.title\')}</h2><p>{t(\'cart.items\', count: 2)}</p>',
  'home/default.html': '<main><draw name="pieces/cart" label="hello"/></main>',
});
const shop = (files: Record<string, unknown> = {}) => layer('shop', 'Withy Quay', files);
const themeOf = (own: Layer, below: Layer[] = [base]) =>
  new Theme([...below, own], 'en-GB', { definitions: () => [], site: null });
const locales = ['en-GB', 'fr', 'pl'];

/** CLDR 45, “Language Plural Rules”, cardinals of whole numbers below 1,000 (from memory). */
describe('plural forms that a language needs', () => {
  it.each([
    ['en', 'one other'],
    ['en-GB', 'one other'],
    ['fr', 'one other'],
    ['de', 'one other'],
    ['nl', 'one other'],
    ['ja', 'other'],
    ['cs', 'one few other'],
    ['pl', 'one few many other'],
    ['ru', 'one few many other'],
    ['lv', 'zero one other'],
    ['ga', 'one two few many other'],
    ['ar', 'zero one two few many other'],
  ])('%s: %s', (locale, forms) => expect(formsOf(locale).needed.join(' ')).toBe(forms));

  it('knows those too that only millions need', () => expect(formsOf('fr').known).toContain('many'));
});

describe('the table', () => {
  it('has every phrase in every language, its layer, what it lacks, and how often it is named', () => {
    const rows = phraseTable(
      themeOf(shop({ 'words/pl.json': { cart: { items: { one: '{count} rzecz', other: 'x' } } } })),
      locales,
    );
    const brief = rows.map(({ key, texts, uses, places }) => [
      key,
      uses,
      places.join(),
      ...texts.map(
        ({ phrase, layer: of, lacks }) =>
          `${phrase === null ? '–' : of}${lacks.length ? ` lacks ${lacks.join()}` : ''}`,
      ),
    ]);
    expect(brief).toEqual([
      ['cart.items', 1, 'count', 'Quay', '–', 'Withy Quay lacks few,many'],
      ['cart.never', 0, '', 'Quay', '–', '–'],
      ['cart.title', 1, '', 'Quay', 'Quay', '–'],
      ['hello', 1, 'name', 'Quay', '–', '–'],
    ]);
  });

  it('names a phrase that shelves or settings give as used', () => {
    const rows = phraseTable(
      themeOf(
        shop({
          'shelves.json': {
            shelves: { x: [{ id: 'a', piece: 'pieces/cart', with: { label: { phrase: 'cart.never' } } }] },
          },
        }),
      ),
      locales,
    );
    expect(rows.find(({ key }) => key === 'cart.never')?.uses).toBe(1);
  });

  it('takes a key that a call puts together, and one that the shop asks for, as used', () => {
    const own = shop({
      'words/en.json': { state: { open: 'Open', shut: 'Shut' }, states: 'States', ask: { yes: 'Yes' } },
      'pieces/state.html': '<takes name="now" type="text"><b>{t(\'state.\' + now)}</b>',
    });
    const uses = phraseUses(themeOf(own));
    expect(['state.open', 'state.shut', 'states', 'ask.yes'].map(uses)).toEqual([1, 1, 0, 1]);
    expect(phrasePlaces(themeOf(own), 'state.shut')).toMatchObject([{ file: 'pieces/state.html', line: 1 }]);
    expect(phrasePlaces(themeOf(own), 'states')).toEqual([]);
  });

  it('reads past a file that is not JSON', () => {
    const rows = phraseTable(themeOf(shop({ 'words/fr.json': '{ "cart": ' })), locales);
    expect(rows.find(({ key }) => key === 'cart.title')?.texts[1]).toMatchObject({ phrase: 'Panier', layer: 'Quay' });
  });
});

describe('edits', () => {
  const edit = (key: string, locale: string, phrase: PhraseEdit['phrase'], seen: PhraseEdit['phrase'] = null) => ({
    key,
    locale,
    phrase,
    seen,
  });
  const own = { 'words/fr.json': { cart: { title: 'Chariot' }, order: 'Commande' } };
  const cases: [string, Record<string, unknown>, PhraseEdit[], Record<string, unknown>][] = [
    [
      'a new file for a language without one',
      {},
      [edit('cart.title', 'pl', 'Koszyk')],
      { 'words/pl.json': { cart: { title: 'Koszyk' } } },
    ],
    [
      'in place, what else is there stays',
      own,
      [edit('cart.title', 'fr', 'Mon panier', 'Chariot')],
      { 'words/fr.json': { cart: { title: 'Mon panier' }, order: 'Commande' } },
    ],
    [
      'back to what is below: its group goes too',
      own,
      [edit('cart.title', 'fr', null, 'Chariot')],
      { 'words/fr.json': { order: 'Commande' } },
    ],
    [
      'what says the same as below is not written',
      own,
      [edit('cart.title', 'fr', 'Panier', 'Chariot')],
      { 'words/fr.json': { order: 'Commande' } },
    ],
    [
      'an empty file goes',
      { 'words/fr.json': { cart: { title: 'Chariot' } } },
      [edit('cart.title', 'fr', null, 'Chariot')],
      { 'words/fr.json': null },
    ],
    [
      'plural forms',
      {},
      [edit('cart.items', 'fr', { one: '{count} article', other: '{count} articles' })],
      { 'words/fr.json': { cart: { items: { one: '{count} article', other: '{count} articles' } } } },
    ],
    [
      'the same twice is written once',
      own,
      [edit('cart.title', 'fr', 'A', 'Chariot'), edit('order', 'fr', 'B', 'Commande')],
      { 'words/fr.json': { cart: { title: 'A' }, order: 'B' } },
    ],
    [
      'a key that is written as one name is changed there',
      { 'words/fr.json': { 'cart.title': 'Chariot' } },
      [edit('cart.title', 'fr', 'A', 'Chariot')],
      { 'words/fr.json': { 'cart.title': 'A' } },
    ],
  ];
  it.each(cases)('%s', (_, before, edits, after) => {
    const { files, late } = planPhrases(themeOf(shop(before)), locales, edits);
    expect(late).toEqual([]);
    expect(
      Object.fromEntries(files.map(({ path, text }) => [path, text === null ? null : (JSON.parse(text) as unknown)])),
    ).toEqual(after);
  });

  it('gives languages that share a file one each where they differ', () => {
    const plan = planPhrases(themeOf(shop()), ['en-GB', 'en-US'], [edit('cart.title', 'en-US', 'Basket', 'Cart')]);
    expect(plan.files.map(({ path }) => path)).toEqual(['words/en-US.json']);
  });

  it('leaves out what someone else changed since, and says what it is now', () => {
    const plan = planPhrases(themeOf(shop(own)), locales, [edit('cart.title', 'fr', 'Mine', 'Panier')]);
    expect(plan).toMatchObject({ files: [], late: [{ key: 'cart.title', now: 'Chariot' }] });
  });

  it('writes nothing into a file that cannot be read', () => {
    const plan = planPhrases(themeOf(shop({ 'words/fr.json': '{' })), locales, [edit('hello', 'fr', 'Salut, {name}')]);
    expect(plan).toMatchObject({ files: [], unreadable: ['words/fr.json'] });
  });
});

describe('a text', () => {
  it.each([
    ['fr', '', 'Bonjour, {name}', null],
    ['fr', '', 'Bonjour, {nmae}', 'error Nothing fills “{nmae}” in this phrase; did you mean “{name}”?'],
    ['fr', '', 'Bonjour', 'warning “{name}” is not in the text'],
    ['fr', 'few', '{name}', 'error This language has no form “few”: it has “one”, “many”, “other”'],
    ['pl', 'few', '{name}', null],
    ['fr', '', '{name}, {street}', null],
  ])('%s %s %s', (locale, form, text, says) => {
    const found = textProblem({ places: ['name', 'street'], first: 'Hello, {name}' }, locale, form, text);
    expect(found && `${found.severity} ${found.text}`).toBe(says);
  });

  it('of one thing need not say how many', () =>
    expect(textProblem({ places: ['count'], first: '{count} left' }, 'fr', 'one', 'Plus qu’un')).toBeNull());
});

describe('the sheet for translators', () => {
  const rows = phraseTable(themeOf(shop()), locales);
  it('has a row a text, a column a language, and the forms that some language needs', () =>
    expect(toSheet(rows, locales)).toEqual([
      ['key', 'form', 'en-GB', 'fr', 'pl'],
      ['cart.items', 'one', '{count} item', '', ''],
      ['cart.items', 'few', '', '', ''],
      ['cart.items', 'many', '', '', ''],
      ['cart.items', 'other', '{count} items', '', ''],
      ['cart.never', '', 'Never said', '', ''],
      ['cart.title', '', 'Cart', 'Panier', ''],
      ['hello', '', 'Hello, {name}', '', ''],
    ]));

  it('comes back unchanged as no change', () =>
    expect(fromSheet(toSheet(rows, locales), rows, locales)).toEqual({
      edits: [],
      changes: [],
      problems: [],
      same: 6,
    }));

  const back = (...lines: string[][]) => fromSheet([['key', 'form', 'fr', 'pl'], ...lines], rows, locales);
  it('takes what was translated, forms together', () => {
    const plan = back(
      ['cart.items', 'one', '{count} article', ''],
      ['cart.items', 'other', '{count} articles', ''],
      ['hello', '', '', 'Cześć, {name}'],
    );
    expect(plan.problems).toEqual([]);
    expect(plan.edits).toEqual([
      { key: 'cart.items', locale: 'fr', phrase: { one: '{count} article', other: '{count} articles' }, seen: null },
      { key: 'hello', locale: 'pl', phrase: 'Cześć, {name}', seen: null },
    ]);
    expect(plan.changes).toHaveLength(3);
  });

  it.each<[string, string[][], string[]]>([
    [
      'a wrong key',
      [['cart.titel', '', 'x', '']],
      ['2 key There is no phrase “cart.titel”; did you mean “cart.title”?'],
    ],
    ['no key', [['', '', 'x', '']], ['2 key This row has no key']],
    ['a wrong place', [['hello', '', 'Salut, {nom}', '']], ['2 fr Nothing fills “{nom}” in this phrase']],
    [
      'a form that the language has not',
      [['cart.items', 'few', '{count} x', '']],
      ['2 fr This language has no form “few”: it has “one”, “many”, “other”'],
    ],
    [
      'no other form',
      [['cart.items', 'one', '{count} x', '']],
      ['2 fr “cart.items” needs a text for the form “other” too'],
    ],
    [
      'forms that are still missing',
      [['cart.items', 'other', '', '{count} x']],
      ['2 pl “cart.items” still lacks “one”, “few”, “many”'],
    ],
    [
      'a phrase twice',
      [
        ['hello', '', 'A {name}', ''],
        ['hello', '', 'B {name}', ''],
      ],
      ['3 key “hello” stands here twice: the first one counts'],
    ],
  ])('says what is wrong: %s', (_, lines, says) =>
    expect(back(...lines).problems.map(({ line, column, text }) => `${line} ${column} ${text}`)).toEqual(says),
  );

  it('says which language the shop has not, and which heading is missing', () => {
    expect(
      fromSheet(
        [
          ['key', 'de'],
          ['hello', 'Hallo'],
        ],
        rows,
        locales,
      ).problems[0]?.text,
    ).toBe('The shop has no language “de”: it has “en-GB”, “fr”, “pl”');
    expect(fromSheet([['name', 'fr']], rows, locales).problems[0]?.text).toContain('needs a column “key”');
  });
});

import { describe, expect, it } from 'vitest';
import { strict, themeOf } from '../language/testing/theme-of';
import { withPhrase, withPhrases, wordsOf } from './add-phrases';

const words = (...pairs: [key: string, text: string][]) => JSON.stringify(Object.fromEntries(pairs));

describe('a phrase in a shop of another language than the theme was written in', () => {
  const base = {
    'about.json': '{"language": "en"}',
    'words/en.json': words(['a', 'base en'], ['b', 'base en'], ['c', 'base en']),
    'words/fr.json': words(['a', 'base fr']),
  };
  const addOn = { 'words/en.json': words(['b', 'add-on en']), 'words/de.json': words(['d', 'add-on de']) };
  const shop = { 'words/de.json': words(['c', 'shop de'], ['e', 'shop de']), 'words/fr.json': words(['f', 'shop fr']) };
  const theme = themeOf([base, addOn, shop]);
  const table: [locale: string, key: string, wanted: string | null][] = [
    ['fr', 'a', 'base fr'],
    ['fr', 'b', null],
    ['de-AT', 'c', 'shop de'],
    ['de', 'd', 'add-on de'],
  ];
  it.each(table)('%s has of %s: %s', (locale, key, wanted) => expect(theme.phraseIn(locale, key)).toBe(wanted));

  const first: [key: string, wanted: string | null, why: string][] = [
    ['a', 'base en', 'the language that about.json names'],
    ['b', 'add-on en', 'an upper layer first; English, as it names none'],
    ['c', 'shop de', 'the first file by name, where there is no English one'],
    ['d', null, 'not of a language that is no layer’s first'],
    ['f', null, 'nor of the second of the shop’s'],
    ['gone', null, 'of no layer'],
  ];
  it.each(first)('else %s is “%s”: %s', (key, wanted) => expect(theme.firstPhrase(key)).toBe(wanted));

  it('is one that the editor offers', () => expect([...theme.phraseKeys()].sort()).toEqual(['a', 'b', 'c', 'e']));
  it('is no problem for the checker', () => {
    const german = strict([{ ...base, 'home/default.html': "<h1>{t('a')}</h1><p>{t('gone')}</p>" }]);
    expect(german.checkAll().map(({ code, message }) => [code, message])).toEqual([
      ['phrase', 'There is no phrase “gone” in en-GB'],
    ]);
  });
  it('a words file that cannot be read leaves the others standing', () => {
    const broken = themeOf([base, { 'words/en.json': '{' }]);
    expect(broken.firstPhrase('b')).toBe('base en');
  });
});

describe('menus that a theme shows', () => {
  const site = {
    locales: [],
    contents: new Set<string>(),
    menus: new Set(['side']),
    named: () => null,
    leads: () => true,
    emptiness: () => null,
  };
  const codes = (about: string) =>
    strict({ 'about.json': about, 'home/default.html': "{menu('main') | count}{menu('side') | count}" }, site)
      .checkAll()
      .map(({ code, message }) => `${code}: ${message}`);
  it('need not be in the shop when about.json names them', () => expect(codes('{"menus": ["main"]}')).toEqual([]));
  it('are mistakes else', () => {
    expect(codes('{}')).toHaveLength(1);
    expect(codes('{}')[0]).toMatch(/^menu: .*“main”/);
  });
});

describe('a file of words as all layers have it', () => {
  const base = { 'words/en.json': '{"a": {"b": "B", "c": "C"}}', 'words/fr.json': '{"a": {"b": "Bé"}}' };
  const own = { 'words/fr.json': '{"a": {"d": {"one": "un", "other": "des"}}}' };
  const theme = themeOf([base, own]);
  it('has each phrase with its layer, and those of the first language alone', () => {
    expect(
      wordsOf(theme, 'words/fr.json').map(({ key, phrase, layer, own: mine }) => [key, phrase, layer, mine]),
    ).toEqual([
      ['a.b', 'Bé', 'base', false],
      ['a.c', 'C', '', false],
      ['a.d', { one: 'un', other: 'des' }, 'shop', true],
    ]);
  });
  it.each([
    ['{}\n', 'a.b', '{\n  "a": {\n    "b": "B"\n  }\n}\n'],
    ['{"a": {"c": "C"}}', 'a.b', { a: { c: 'C', b: 'B' } }],
    // Where a phrase stands in the place of a group, nothing of it is lost.
    ['{"a": "A"}', 'a.b', { a: 'A', 'a.b': 'B' }],
    ['{"a": ', 'a.b', '{"a": '],
  ])('%s with %s', (file, key, made) => {
    const text = withPhrase(file, key, 'B');
    expect(typeof made === 'string' ? text : (JSON.parse(text) as unknown)).toEqual(made);
  });
  it('gets phrases in each language that lacks them', () => {
    const phrases = [{ key: 'a.c', text: 'See' }];
    expect(
      withPhrases(theme, ['en-GB', 'fr-FR', 'fr-CA'], phrases).map(({ path, text }) => [path, JSON.parse(text)]),
    ).toEqual([['words/fr.json', { a: { d: { one: 'un', other: 'des' }, c: 'See' } }]]);
  });
});

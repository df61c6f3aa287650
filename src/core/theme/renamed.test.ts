import { describe, expect, it } from 'vitest';
import { applyFix, record } from '@/core/language';
import { pageOf, strict, themeOf } from '@/core/language/testing/theme-of';

/** `asked-anew` was renamed: themes that use the old name keep working, and get a note. */
describe('a kind with another name now', () => {
  const change = { kind: 'asked-again', name: 'End' };
  const shown = (expression: string, value: object = change) =>
    pageOf(themeOf({ 'product/default.html': `{${expression} ? 'yes' : 'no'}` }), { change: record({ ...value }) })
      .html;
  it.each([
    ["change.kind == 'asked-anew'", 'yes'],
    ["'asked-anew' == change.kind", 'yes'],
    ["change.kind == 'asked-again'", 'yes'],
    ["change.kind != 'asked-anew'", 'no'],
    ["change.kind == 'gone'", 'no'],
    ["change.name == 'asked-anew'", 'no'],
  ])('%s is %s', (expression, expected) => expect(shown(expression)).toBe(expected));
  it('only of a field called kind', () =>
    expect(shown("change.slug == 'asked-anew'", { slug: 'asked-anew' })).toBe('yes'));

  it('is reported in a template, with its fix', () => {
    const text = `<p do:each="line in cart.lines"><i do:each="one in line.changes" do:when="one.kind == 'asked-anew'">x</i></p>\n`;
    const problems = strict({ 'cart/default.html': text }).checkAll();
    expect(problems.map(({ code, severity, message }) => [code, severity, message])).toEqual([
      ['renamed', 'note', '“asked-anew” is called “asked-again” now'],
    ]);
    expect(problems[0]?.fix && applyFix(text, problems[0].fix)).toBe(text.replace('asked-anew', 'asked-again'));
  });
});

describe('a phrase with another name now', () => {
  const old = '{ "cart": { "change": { "asked-anew": "Again: {name}", "gone": "Gone" } } }';
  const base = '{ "cart": { "change": { "asked-again": "Once more: {name}" } } }';
  it('is found by both names, and covers the one below', () => {
    const theme = themeOf([{ 'words/en.json': base }, { 'words/en.json': old }]);
    for (const name of ['asked-anew', 'asked-again']) expect(theme.phrase(`cart.change.${name}`)).toBe('Again: {name}');
    expect(theme.phraseKeys()).toEqual(new Set(['cart.change.asked-again', 'cart.change.gone']));
  });
  it('is reported in its file, with its fix', () => {
    const problems = themeOf({ 'words/en.json': old }).checkAll();
    expect(problems.map(({ code, severity, file, message }) => [code, severity, file, message])).toEqual([
      ['renamed', 'note', 'words/en.json', '“asked-anew” is called “asked-again” now'],
    ]);
    expect(problems[0]?.fix && applyFix(old, problems[0].fix)).toBe(old.replace('asked-anew', 'asked-again'));
  });
});

import { describe, expect, it } from 'vitest';
import { lookOf, readLook } from './look';
import { Theme, type Layer } from './theme';
import { readWords } from './words';

const layer = (kind: Layer['kind'], files: Record<string, string>): Layer => ({
  kind,
  name: kind,
  version: '1',
  files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: text, text }])),
});
const codes = (files: Record<string, string>) =>
  new Theme([layer('base', files)]).checkAll().map((one) => `${one.file}:${one.line} ${one.code}`);

describe('a stack of layers', () => {
  const theme = new Theme([
    layer('base', {
      'pieces/a.html': 'base',
      'pieces/b.html': 'b',
      'words/en.json': '{"x":{"y":"base y","z":"base z"}}',
    }),
    layer('shop', { 'pieces/a.html': 'shop', 'words/en.json': '{"x":{"y":"shop y"}}' }),
  ]);
  it('serves the topmost file', () => expect(theme.file('pieces/a.html')?.text).toBe('shop'));
  it('keeps those below in reach', () =>
    expect(theme.everywhere('pieces/a.html').map((file) => file.text)).toEqual(['base', 'shop']));
  it('lets upper phrases replace lower ones', () =>
    expect([theme.phrase('x.y'), theme.phrase('x.z')]).toEqual(['shop y', 'base z']));
  it('has no file of a name that none has', () => expect(theme.file('pieces/c.html')).toBeNull());
});

describe('compiled templates', () => {
  const base = { 'pieces/a.html': '<p do:mark="a">0</p>', 'pieces/b.html': 'b' };
  const shop = { 'pieces/a.html': '<amend><append mark="a">1</append></amend>' };
  const theme = (...layers: Record<string, string>[]) =>
    new Theme(layers.map((files, at) => layer(at ? 'shop' : 'base', files)));
  it('are shared by all themes that hold the same files', () => {
    expect(theme(base, shop).compiled('pieces/a')).toBe(theme(base, shop).compiled('pieces/a'));
    expect(theme(base, shop).compiled('pieces/b')).toBe(theme(base).compiled('pieces/b'));
    expect(theme(base).compiled('pieces/b', true)).toBe(theme(base).compiled('pieces/b', true));
  });
  it('are rebuilt when a file below an amendment changes', () => {
    const changed = theme({ ...base, 'pieces/a.html': '<p do:mark="a">9</p>' }, shop).compiled('pieces/a');
    expect(changed).not.toBe(theme(base, shop).compiled('pieces/a'));
    expect(changed?.template.source.text).toContain('9');
  });
  it('are the lower file’s alone when a full file stands above its amendments', () =>
    expect(
      theme(base, shop, { 'pieces/a.html': 'full' })
        .parts('pieces/a')
        .map(({ text }) => text),
    ).toEqual(['full']));
});

describe('checking a theme', () => {
  const table: [name: string, files: Record<string, string>, expected: string[]][] = [
    ['a piece that is not there', { 'a/b.html': '\n<draw name="pieces/x"/>' }, ['a/b.html:2 missing']],
    [
      'a circle, in every file of it',
      { 'a.html': '<draw name="b"/>', 'b.html': '<draw name="a"/>' },
      ['a.html:1 circle', 'b.html:1 circle'],
    ],
    ['a circle under a condition is none', { 'a.html': '<div do:when="x"><draw name="a"/></div>' }, []],
    [
      'a circle through a gap’s contents',
      { 'a.html': '<draw name="b"><draw name="a"/></draw>', 'b.html': '<gap></gap>' },
      ['a.html:1 circle'],
    ],
    [
      'a gap that is not there',
      { 'a.html': '<draw name="b"><fill gap="hed">x</fill></draw>', 'b.html': '<gap name="head"></gap>' },
      ['a.html:1 gap'],
    ],
    [
      'a gap filled twice',
      {
        'a.html': '<draw name="b"><fill gap="h">x</fill><fill gap="h">y</fill></draw>',
        'b.html': '<gap name="h"></gap>',
      },
      ['a.html:1 gap'],
    ],
    [
      'a fill in a group',
      { 'a.html': '<draw name="b"><group><fill gap="h">x</fill></group></draw>', 'b.html': '<gap name="h"></gap>' },
      ['a.html:1 gap'],
    ],
    [
      'an input that is required',
      { 'a.html': '<draw name="b"/>', 'b.html': '<takes name="n" type="number" required>{n}' },
      ['a.html:1 takes'],
    ],
    [
      'an input that cannot be read',
      { 'a.html': '<draw name="b" n="two"/>', 'b.html': '<takes name="n" type="number">{n}' },
      ['a.html:1 takes'],
    ],
    ['an input’s type', { 'b.html': '<takes name="n" type="nmber">{n}' }, ['b.html:1 takes']],
    ['an input’s name', { 'b.html': '<takes name="a b" type="text">x' }, ['b.html:1 takes', 'b.html:1 unused-input']],
    ['a draw without a name', { 'a.html': '<draw/>' }, ['a.html:1 element']],
    ['a phrase', { 'a.html': "{t('a.b')}" }, ['a.html:1 phrase']],
    ['an asset', { 'a.html': "{asset('x.css')}", 'assets/y.css': '' }, ['a.html:1 asset']],
  ];
  for (const [name, files, expected] of table) it(name, () => expect(codes(files)).toEqual(expected));
  it('names the nearest known name', () => {
    const [first] = new Theme([
      layer('base', { 'a.html': '<draw name="pieces/prise"/>', 'pieces/price.html': '' }),
    ]).checkAll();
    expect(first?.message).toContain('did you mean “pieces/price”?');
  });
});

describe('words files', () => {
  it('are read to dotted keys and plural forms', () => {
    const words = readWords('{"a":{"b":"c","n":{"one":"1","other":"x"}}}');
    expect([...words]).toEqual([
      ['a.b', 'c'],
      ['a.n', { one: '1', other: 'x' }],
    ]);
  });
  it('must be an object', () => expect(() => readWords('[]')).toThrow(TypeError));
});

describe('the look', () => {
  it('takes upper layers’ settings over lower ones’, and leaves a broken one out', () => {
    const look = lookOf([
      '{"settings":[{"name":"a","value":1},{"name":"b","value":2}]}',
      '{"settings":[{"name":"a","value":3}]}',
      '{',
    ]);
    expect([look.a, look.b]).toEqual([3, 2]);
  });
  it('says which setting is wrong', () =>
    expect(() => readLook('{"settings":[{"name":"a"},{"name":"B b"}]}')).toThrow('Setting 2'));
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseTemplate } from './template';
import type { TemplateNode } from './nodes';

const problems = (text: string) =>
  parseTemplate('a.html', text).problems.map((one) => `${one.line}:${one.column} ${one.code}`);
const first = (text: string) => parseTemplate('a.html', text).problems[0]?.message;

describe('what is wrong is reported where it is, and reading goes on', () => {
  const table: [name: string, text: string, expected: string[]][] = [
    ['nothing', '<p>a</p>', []],
    [
      'several, each in its line',
      '<p>{a.}</p>\n<b>{1 + }</b>\n<i do:wehn="x">y</i>',
      ['1:6 expression', '2:7 expression', '3:4 directive'],
    ],
    ['an element never closed', '<div>\n  <p>a</p>\n', ['1:1 unclosed']],
    ['a close that opens nothing', 'a\n</div>', ['2:1 unopened']],
    ['crossed elements are one problem', '<b><i>x</b></i>', ['1:8 nesting']],
    ['an inner element never closed', '<div><b></div>', ['1:9 nesting']],
    ['a value never closed', '<p title="a>x</p>', ['1:10 unclosed']],
    ['a tag that is cut off by another', '<p class=a\n<b>x</b>', ['1:1 unclosed']],
    ['a brace that is never closed', '<p>{a</p><p>{b}</p>', ['1:4 expression']],
    ['the attribute’s own quote inside braces', '<p title="{a or "x"}">y</p>', ['1:15 expression']],
    ['a directive with braces', '<p do:when="{a}">x</p>', ['1:13 expression']],
    ['an empty directive', '<p do:when="">x</p>', ['1:4 expression']],
    ['a comment never closed', 'a <!-- b', ['1:3 unclosed']],
    ['a comment in a comment', '<!--: a <!--: b :-->', ['1:9 comment']],
    ['a directive twice', '<p do:when="a" do:when="b">x</p>', ['1:16 directive']],
    ['a loop without a list', '<p do:each="a">x</p>', ['1:4 directive']],
    ['too deep an expression', `{${'('.repeat(200)}1${')'.repeat(200)}}`, ['1:102 expression']],
  ];
  for (const [name, text, expected] of table) {
    it(name, () => {
      const found = problems(text);
      for (const one of expected) expect(found).toContain(one);
      if (!expected.length) expect(found).toEqual([]);
    });
  }
});

describe('messages are plain sentences that name both ends', () => {
  const table: [text: string, message: string][] = [
    ['<b>\n<i>x\n</b></i>', '</b> closes <i>, opened on line 2: its own end tag is missing'],
    ['<p do:wehn="a">x</p>', 'There is no directive “do:wehn”; did you mean “do:when”?'],
    ['<p>{product.}</p>', 'A field’s name is missing after “.”'],
    ['<div/>', '<div/> does not close itself: a browser reads it as an open <div>'],
    ['<p>{product.name</p>', 'The brace “{” is not closed by “}”'],
    ["<p>{t('a}</p>", 'The text is not closed: its quote is missing'],
  ];
  for (const [text, message] of table) it(message, () => expect(first(text)).toBe(message));
});

/** All nodes, outer before inner. */
function flat(nodes: readonly TemplateNode[]): TemplateNode[] {
  return nodes.flatMap((node) => (node.type === 'element' ? [node, ...flat(node.children)] : [node]));
}

describe('spans', () => {
  it('name the element’s tag and its end', () => {
    const text = '<ul>\n <li class="a">b</li>\n</ul>';
    const [, item] = flat(parseTemplate('a.html', text).children).filter((node) => node.type === 'element');
    expect(item && text.slice(item.from, item.to)).toBe('<li class="a">b</li>');
    expect(item?.type === 'element' && text.slice(item.from, item.openTo)).toBe('<li class="a">');
  });
});

const pieces = [
  '<p>',
  '</p>',
  '<b ',
  '{',
  '}',
  '"',
  "'",
  'do:when=',
  '<draw name="a"/>',
  '<!--:',
  ':-->',
  '<!--',
  '-->',
  '\n',
  ' ',
  'a',
  '=',
  '<script>',
  '</script>',
  '<svg/>',
  '|',
  '(',
  ')',
  '.',
  '<title>',
  '\u0000',
  '😀',
  '<amend>',
  '<group>\n',
  '</group>',
];

describe('any text at all', () => {
  it('gives a tree whose nodes lie inside the text, in order', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...pieces), { maxLength: 60 }), (parts) => {
        const text = parts.join('');
        for (const node of flat(parseTemplate('a.html', text).children)) {
          expect(node.from).toBeGreaterThanOrEqual(0);
          expect(node.to).toBeLessThanOrEqual(text.length);
          expect(node.to).toBeGreaterThanOrEqual(node.from);
        }
      }),
      { numRuns: 1500 },
    );
  });
  it('is read without a crash: random bytes', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (text) =>
        Array.isArray(parseTemplate('a.html', text).children),
      ),
    );
  });
  it('of great depth and length is read to its end', () => {
    for (const part of ['<b>', '{', '<p a={', '<!--', '</b>', '<title>', '{a+', '<a b="']) {
      const { children } = parseTemplate('a.html', part.repeat(50_000));
      expect(Array.isArray(children)).toBe(true);
    }
  });
});

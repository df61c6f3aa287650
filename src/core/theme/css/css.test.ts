import { describe, expect, it } from 'vitest';
import { applyFix } from '@/core/language';
import { Theme, type Layer } from '../theme';

const layer = (kind: Layer['kind'], files: Record<string, string>): Layer => ({
  ...{ kind, name: kind, version: '1' },
  files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: text, text }])),
});

const base = {
  'layouts/shop.html': '<!doctype html><html style="--accent: {look.accent}"><body><gap/></body></html>\n',
  'assets/css/base.css':
    ':root { --line: #ddd; }\n@font-face { font-family: "Sail Sans"; src: url(../fonts/sail-sans.woff2); }\n',
  'assets/fonts/sail-sans.woff2': '',
  'assets/fonts/pier.woff2': '',
  'assets/img/rope.png': '',
  'assets/js/shop.js': "document.body.style.setProperty('--scrolled', '1px');\n",
};
const problemsOf = (path: string, text: string) =>
  new Theme([layer('base', base), layer('shop', { [path]: text })])
    .checkFile(path)
    .filter(({ code }) => code.startsWith('css') || code === 'asset');
const said = (path: string, text: string) => problemsOf(path, text).map(({ line, message }) => `${line}: ${message}`);

describe('a mistake in a style sheet is told at its line, and no other line is blamed', () => {
  const around = (line: string) => `.a {\n  color: red;\n  ${line}\n  margin: 0;\n}\n.b { padding: 0; }\n`;
  const table: [name: string, text: string, said: string][] = [
    ['a property', around('colr: red;'), '3: There is no property “colr”; did you mean “color”?'],
    ['a property that is far from any', around('hue-of-the-sea: red;'), '3: There is no property “hue-of-the-sea”'],
    ['a keyword', around('display: flx;'), '3: “display” does not take “flx”; did you mean “flex”?'],
    ['a colour', around('background: gren;'), '3: “background” does not take “gren”; did you mean “green”?'],
    ['a colour of five digits', around('color: #12345;'), '3: “color” does not take “#12345”'],
    ['a length without a unit', around('padding: 12;'), '3: “padding” does not take “12” without a unit, as in “12px”'],
    ['a unit', around('width: 10pxx;'), '3: “width” does not take “10pxx”; did you mean “10px”?'],
    ['a unit apart from its number', around('width: 10 px;'), '3: “width” does not take “10”'],
    [
      'a sum without spaces',
      around('width: calc(100%-2px);'),
      '3: In calc() a space stands on both sides of “+” and “-”: “100%-2px” has none',
    ],
    ['two values for one', around('opacity: 1 2;'), '3: “opacity” does not take “2”'],
    ['a word for a number', around('z-index: high;'), '3: “z-index” does not take “high”'],
    ['a negative width', around('width: -4px;'), '3: “width” does not take “-4px”'],
    ['an unknown function', around('transform: rotat(3deg);'), '3: “transform” does not take “rotat(3deg)”'],
    [
      'a part of a shorthand',
      around('border: 1px sold red;'),
      '3: “border” does not take “sold”; did you mean “solid”?',
    ],
    ['a value that is missing', around('border: ;'), '3: “border” has no value'],
    ['important, misspelt', around('top: 0 !importnt;'), '3: “top” does not take “0 !importnt”'],
    ['no colon', around('float left;'), '3: “float left” is no declaration: write a name, a colon and a value'],
    [
      'no semicolon',
      '.a {\n  color: red\n  margin: 0;\n}\n',
      '2: A semicolon is missing here, before the next declaration',
    ],
    [
      'a block without its end',
      '.a {\n  color: red;\n\n.b {\n  margin: 0;\n}\n',
      '1: “.a {” is never closed: its “}” is missing',
    ],
    [
      'a block without its end in a row of others',
      '.a {\n  color: red;\n}\n.b,\n.c {\n  margin: 0;\n.d {\n  top: 0;\n}\n.e {\n  top: 0;\n}\n',
      '4: “.b, .c {” is never closed: its “}” is missing',
    ],
    [
      'a block without its end within another',
      '.a {\n  top: 0;\n}\n@media (width > 3px) {\n  .b {\n    top: 0;\n\n  .c {\n    top: 0;\n  }\n}\n.d {\n  top: 0;\n}\n',
      '5: “.b {” is never closed: its “}” is missing',
    ],
    [
      'the outer block without its end',
      '.a {\n  top: 0;\n}\n@media (width > 3px) {\n  .b {\n    top: 0;\n  }\n.d {\n  top: 0;\n}\n',
      '4: “@media (width > 3px) {” is never closed: its “}” is missing',
    ],
    [
      'a block without its end in one line',
      '.a { top: 0 }\n.b { top: 0\n',
      '2: “.b {” is never closed: its “}” is missing',
    ],
    ['an end too many', '.a { top: 0 }\n}\n.b { top: 0 }\n', '2: This “}” closes nothing: no block is open here'],
    ['a text without its end', '.a {\n  content: "x;\n}\n', '2: This text in quotes has no end'],
    [
      'a comment without its end',
      '.a { top: 0 }\n/* the rest\n',
      '2: This comment has no end: everything after it is passed over',
    ],
    ['a selector', '.a { top: 0 }\n.b, { top: 0 }\n', '2: “.b,” is no selector: no rule of it holds'],
    [
      'a class that begins with a digit',
      '.a { top: 0 }\n.2up { top: 0 }\n',
      '2: “.2up” is no selector: no rule of it holds',
    ],
    ['an at-rule', '@meda print { .a { top: 0 } }\n', '1: There is no @meda; did you mean “media”?'],
    ['a condition', '\n@media (min-width: 3px { .a { top: 0 } }\n', '2: The condition of @media cannot be read'],
    [
      'a descriptor',
      '@font-face {\n  font-family: "X";\n  src: url(../fonts/pier.woff2);\n  font-dsplay: swap;\n}\n',
      '4: @font-face has no “font-dsplay”; did you mean “font-display”?',
    ],
    ['a custom property', '.a {\n  color: var(--acent);\n}\n', '2: Nothing sets “--acent”; did you mean “--accent”?'],
    ['one within another', '.a {\n  --b: var(--lines);\n}\n', '2: Nothing sets “--lines”; did you mean “--line”?'],
    [
      'a font',
      '.a {\n  font-family: "Sail Sanz", serif;\n}\n',
      '2: No font file and no @font-face of this theme is called “Sail Sanz”; did you mean “Sail Sans”?',
    ],
    [
      'a font in a shorthand',
      '.a {\n  font: 16px/1.4 Harbour, serif;\n}\n',
      '2: No font file and no @font-face of this theme is called “Harbour”, and few devices have it',
    ],
    [
      'an address',
      '.a {\n  background: url(../img/rop.png);\n}\n',
      '2: There is no file “img/rop.png” in the theme’s assets; did you mean “img/rope.png”?',
    ],
    [
      'an address in the wrong folder',
      '.a {\n  background: url("img/rope.png");\n}\n',
      '2: There is no file “css/img/rope.png” in the theme’s assets; did you mean “img/rope.png”?',
    ],
    [
      'an import',
      '@import "bas.css";\n',
      '1: There is no file “css/bas.css” in the theme’s assets; did you mean “css/base.css”?',
    ],
  ];
  it.each(table)('%s', (_, text, says) => expect(said('assets/css/shop.css', text)).toEqual([says]));

  const inTemplates: [name: string, text: string, said: string][] = [
    [
      'a property in an attribute',
      '<p>a</p>\n<p style="colr: red">b</p>\n',
      '2: There is no property “colr”; did you mean “color”?',
    ],
    [
      'a property before a value',
      '<p>a</p>\n<p style="colr: {1}">b</p>\n',
      '2: There is no property “colr”; did you mean “color”?',
    ],
    [
      'a value beside one',
      '<p style="top: {1}px;\n  display: flx">b</p>\n',
      '2: “display” does not take “flx”; did you mean “flex”?',
    ],
    [
      'a custom property',
      '<p>a</p>\n<p style="color: var(--acent)">b</p>\n',
      '2: Nothing sets “--acent”; did you mean “--accent”?',
    ],
    [
      'a block in a style element',
      '<style>\n.a { top: 0;\n</style>\n',
      '2: “.a {” is never closed: its “}” is missing',
    ],
    [
      'an address',
      '<p style="background: url(/assets/img/rop.png)">b</p>\n',
      '1: There is no file “img/rop.png” in the theme’s assets; did you mean “img/rope.png”?',
    ],
  ];
  it.each(inTemplates)('in a template: %s', (_, text, says) => expect(said('pieces/a.html', text)).toEqual([says]));
});

describe('what is right is left alone', () => {
  it.each([
    ['a value with a custom property', '.a { margin: var(--line) auto; border: 1px solid var(--anything, red) }'],
    ['one that a script sets', '.a { top: var(--scrolled) }'],
    [
      'one that it sets itself',
      '.a { --gap: 4px; padding: var(--gap) }\n@property --turn { syntax: "<angle>"; inherits: false; initial-value: 0deg }\n.b { rotate: var(--turn) }',
    ],
    [
      'fonts',
      '.a { font: inherit; font-family: "Sail Sans", pier, Georgia, system-ui, sans-serif }\n.b { font: 600 1rem/1.2 "Sail Sans", serif }',
    ],
    [
      'addresses',
      '@import "base.css";\n.a { background: url("../img/rope.png?v=1") 0 0 / cover, url(data:image/png;base64,AA==), url(#clip), url(https://withy-quay.example/a.png) }',
    ],
    [
      'a rule in a rule',
      '.a { color: red; .b { top: 0 } & > .c { top: 0 } > .d { top: 0 } @media (width < 30em) { top: 1px } }',
    ],
    [
      'newer at-rules',
      '@layer a, b;\n@container side (width > 20em) { .a { top: 0 } }\n@starting-style { .a { opacity: 0 } }\n@scope (.a) to (.b) { p { top: 0 } }\n@supports selector(:has(a)) and (not (display: grid)) { .a { top: 0 } }\n@page :first { margin: 1in; @top-left { content: "x" } }\n@counter-style x { system: cyclic; symbols: "a" "b" }',
    ],
    [
      'newer values',
      '.a { color: light-dark(#000, oklch(50% 0.1 20)); background: color-mix(in oklch, red 20%, blue); height: 100dvh; width: calc-size(auto, size); border-color: rgb(from red r g b / .5); text-wrap: balance; inset: 0 auto auto 0 }',
    ],
    [
      'what makers have of their own',
      '.a { -webkit-line-clamp: 3; -webkit-box-orient: vertical; -webkit-font-smoothing: antialiased; -moz-own: 1 }',
    ],
    ['stops of an animation', '@keyframes turn { from { rotate: 0deg } 50.5%, to { rotate: 1turn } }'],
    ['what only looks like an end', '.a::before { content: "} /* {" }\n/* { */\n.b { top: 0 }'],
  ])('%s', (_, text) => expect(said('assets/css/shop.css', text)).toEqual([]));

  it.each([
    '<p style="{1}; top: 0">a</p>\n',
    '<p style="width: {1}%; --gap: {2}px; padding: var(--gap)">a</p>\n',
    '<p style="background: url({\'a\'})">a</p>\n',
    '<p style="">a</p>\n',
  ])('%s', (text) => expect(said('pieces/a.html', text)).toEqual([]));
});

it('a fix writes what is certainly meant', () => {
  const fixed = (text: string) =>
    problemsOf('assets/css/shop.css', text).reduce((all, { fix }) => (fix ? applyFix(all, fix) : all), text);
  expect(fixed('.a { dislay: block }')).toBe('.a { display: block }');
  expect(fixed('.a {\n  color: red\n  margin: 0;\n}')).toBe('.a {\n  color: red;\n  margin: 0;\n}');
  expect(fixed('.a { background: url(../img/ropee.png) }')).toBe('.a { background: url(../img/rope.png) }');
  expect(fixed('.a { color: var(--acent) }')).toBe('.a { color: var(--accent) }');
});

import { parseFragment, type DefaultTreeAdapterMap } from 'parse5';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Theme } from '../theme/theme';
import { strict } from './testing/theme-of';
import { Html, Money, Day, record, renderPage, type RenderOptions, type Value } from './index';

function render(files: Record<string, string>, data: Record<string, Value> = {}, options: Partial<RenderOptions> = {}) {
  const theme = new Theme([
    {
      kind: 'base',
      name: 'test',
      version: '1',
      files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: text, text }])),
    },
  ]);
  return renderPage(theme, 'product/default', record(data), {
    locale: options.locale ?? 'en-GB',
    services: { phrase: (key) => theme.phrase(key) },
    globals: {},
    ...options,
  });
}
const page = (text: string, data: Record<string, Value> = {}) => render({ 'product/default.html': text }, data).html;

type Node = DefaultTreeAdapterMap['node'];
type Element = DefaultTreeAdapterMap['element'];
const elements = (node: Node): Element[] =>
  'childNodes' in node
    ? node.childNodes.flatMap((child) => ('tagName' in child ? [child, ...elements(child)] : []))
    : [];

describe('a value never leaves its place (parse5 reads the page as a browser does)', () => {
  const nasty = fc.oneof(
    fc.string({ unit: 'binary' }),
    fc.constantFrom(
      '"><script>x</script>',
      "' onload='x",
      '</title><b>',
      '<!--',
      ']]>',
      'javascript:x',
      ' \u0000 a=b',
      '`',
      '&quot;',
      '\\',
    ),
  );
  const holds = (template: string, tags: string[], attributes: string[]) =>
    fc.assert(
      fc.property(nasty, (v) => {
        const found = elements(parseFragment(page(template, { v })));
        expect(found.map((one) => one.tagName)).toEqual(tags);
        for (const { attrs } of found)
          for (const { name, value } of attrs) {
            expect(attributes).toContain(name);
            if (name === 'href') expect(value).not.toMatch(/^\s*javascript:/i);
          }
      }),
      { numRuns: 300 },
    );
  it('in text', () => holds('<p>{v}</p>', ['p'], []));
  it('in a quoted attribute', () => holds('<p title="a {v} b">x</p>', ['p'], ['title']));
  it('in a single-quoted attribute', () => holds("<p title='{v}'>x</p>", ['p'], ['title']));
  it('in an unquoted attribute', () => holds('<p title={v}>x</p>', ['p'], ['title']));
  it('in an address', () => holds('<a href="{v}">x</a>', ['a'], ['href']));
  it('later in an address', () => holds('<a href="/a/{v}?b={v}#{v}">x</a>', ['a'], ['href']));
  it('in a class', () => holds('<p class="{[v, v]}">x</p>', ['p'], ['class']));
  it('in a style', () => holds('<p style="color: {v}">x</p>', ['p'], ['style']));
  it('in a title', () => holds('<title>{v}</title>', ['title'], []));
  it('in a textarea', () => holds('<textarea>{v}</textarea>', ['textarea'], []));
  it('as candidates of a picture', () => holds('<img srcset="{v} 1x, {v} 2x">', ['img'], ['srcset']));
  it('as data for scripts', () => holds('<script type="application/json" do:json="v"></script>', ['script'], ['type']));
});

describe('budgets', () => {
  const table: [name: string, files: Record<string, string>, code: string][] = [
    [
      'loops without end',
      { 'product/default.html': '<p do:each="a in range(1, 9999)"><b do:each="b in range(1, 9999)">x</b></p>' },
      'budget',
    ],
    [
      'a text that grows',
      {
        'product/default.html':
          "<p do:let=\"a = 'xxxxxxxxxx'; b = a | replace('x', a); c = b | replace('x', b); d = c | replace('x', c); e = d | replace('x', d)\">{e}</p>",
      },
      'budget',
    ],
    [
      'a piece that draws itself for ever',
      {
        'product/default.html': '<draw name="pieces/a" n="{1}"/>',
        'pieces/a.html': '<p do:when="n"><draw name="pieces/a" n="{n}"/></p>',
      },
      'depth',
    ],
  ];
  for (const [name, files, code] of table) {
    it(name, () =>
      expect(render(files, {}, { steps: 50_000, size: 100_000 }).problems.map((one) => one.code)).toContain(code),
    );
  }
  it('leave the rest of the page standing, loops and all', () => {
    const { html, problems } = render(
      {
        'product/default.html': '<h1>a</h1><draw name="pieces/a"/><p do:each="x in range(1, 3)">{x}</p>',
        'pieces/a.html': '<p do:each="a in range(1, 9999)"><b do:each="b in range(1, 9999)">x</b></p>',
      },
      {},
      { steps: 1000 },
    );
    expect(html).toBe('<h1>a</h1><p>1</p><p>2</p><p>3</p>');
    expect(problems.map((one) => one.code)).toEqual(['budget']);
  });
  it('bound what pieces that draw one another twice each may make', () => {
    const files: Record<string, string> = { 'product/default.html': '<draw name="pieces/0"/>' };
    for (let at = 0; at < 30; at++)
      files[`pieces/${at}.html`] = `${'x'.repeat(500)}<draw name="pieces/${at + 1}"/><draw name="pieces/${at + 1}"/>`;
    const { html, problems } = render(files, {}, { steps: 100_000, size: 50_000 });
    expect(html.length).toBeLessThanOrEqual(50_000);
    expect(problems.map((one) => one.code)).toContain('budget');
  });
  it('bound a long text that is printed over and over', () => {
    const long = 'x'.repeat(10_000);
    const { problems } = render({ 'product/default.html': '{v}'.repeat(100) }, { v: long }, { size: 200_000 });
    expect(problems.map((one) => one.code)).toEqual(['budget']);
  });
  it('end what takes too long, by the clock that is given', () => {
    let now = 0;
    const time = { most: 50, now: () => (now += 1) };
    const { problems } = render(
      { 'product/default.html': '<p do:each="a in range(1, 9999)"><b do:each="b in range(1, 9999)">x</b></p>' },
      {},
      { time },
    );
    expect(problems.map((one) => one.message)).toEqual([expect.stringContaining('longer than a page may take')]);
  });
  it('leave the rest of the page standing', () => {
    const { html } = render({ 'product/default.html': '<h1>a</h1><draw name="pieces/gone"/><p>b</p>' }, {});
    expect(html).toBe('<h1>a</h1><p>b</p>');
  });
});

describe('nothing of JavaScript is in reach', () => {
  const names = ['constructor', '__proto__', 'toString', 'hasOwnProperty', 'valueOf', 'prototype', 'length', 'then'];
  for (const name of names) {
    it(name, () => {
      expect(
        page(`[{p.${name}}][{p['${name}']}][{${name}}][{l.${name}}][{m.${name}}]`, {
          p: record({ a: 1 }),
          l: [1],
          m: new Money(1, 'GBP'),
        }),
      ).toBe('[][][][][]');
    });
  }
  it('not even as names of inputs and gaps', () => {
    const files = {
      'product/default.html': '<draw name="pieces/a" constructor="x"><fill gap="toString">y</fill></draw>',
      'pieces/a.html': '{constructor}{valueOf}<gap name="toString">z</gap><gap name="__proto__">q</gap>',
    };
    expect(render(files).html).toBe('xyq');
  });
});

describe('what the reference leaves open', () => {
  const table: [name: string, text: string, data: Record<string, Value>, html: string][] = [
    [
      'a set of directives on one element',
      '<i do:each="x in l" do:let="y = x + 1" do:when="y > 2">{y}</i>',
      { l: [1, 2, 3] },
      '<i>3</i><i>4</i>',
    ],
    ['a day and a number', '<p>{d + 1}</p>', { d: Day.read('2026-12-31') as Day }, '<p>2027-01-01</p>'],
    ['html joined with text is text', "<p>{h + '!'}</p>", { h: new Html('<b>a</b>') }, '<p>a!</p>'],
    ['a piece that is not there prints nothing', '<draw name="pieces/none"/>', {}, ''],
    [
      'an own element that closes itself over lines keeps its line',
      'a\n<draw\n name="pieces/gone"\n/>\nb',
      {},
      'a\n\nb',
    ],
    ['a do:once in a loop', '<b do:each="x in l" do:once>{x}</b>', { l: [1, 2] }, '<b>1</b>'],
    ['a raw address keeps its escapes', '<a href="{u}">x</a>', { u: '/a%20b?c=%26' }, '<a href="/a%20b?c=%26">x</a>'],
    [
      'numbers out of the ordinary',
      '<p>{n} {m}</p>',
      { n: 1e21, m: 0.0000001 },
      '<p>1000000000000000000000 0.0000001</p>',
    ],
  ];
  for (const [name, text, data, html] of table) it(name, () => expect(page(text, data)).toBe(html));
});

describe('any text at all as a template', () => {
  const pieces = fc.constantFrom(
    '{',
    '}',
    '<p>',
    '</p>',
    '<draw name="pieces/a"/>',
    '<gap></gap>',
    ' do:when="a"',
    ' do:each="x in range(1, 9999)"',
    "{x | replace('x', 'xxxxxxxx')}",
    '<',
    '>',
    '"',
    "'",
    '|',
    '(',
    ')',
    '[',
    ']',
    'a.b',
    '<!--:',
    ':-->',
    '<title>',
    '<svg>',
    '/>',
    '<amend>',
    '<takes name="x">',
    '\u0000',
    '\ud800',
  );
  const text = fc.oneof(
    fc.array(pieces, { maxLength: 30 }).map((all) => all.join('')),
    fc.string({ unit: 'binary', maxLength: 200 }),
  );
  it('is checked and rendered, plainly and traced, without a crash, and within its budget', () => {
    fc.assert(
      fc.property(text, text, (page, piece) => {
        const files = { 'product/default.html': page, 'pieces/a.html': piece };
        const checked = strict(files).checkAll();
        expect(checked.every((one) => one.from <= one.to && one.line > 0 && one.message !== '')).toBe(true);
        for (const traced of [false, true]) {
          const { html } = render(files, { a: 'x' }, { steps: 2000, size: 20_000, traced });
          expect(html.length).toBeLessThanOrEqual(traced ? 80_000 : 20_000);
        }
      }),
      { numRuns: 1500 },
    );
  });
});

describe('the same input gives the same bytes', () => {
  it('over many renders', () => {
    const text = '<ul><li do:each="x, at in l">{at.number} {x | upper}</li></ul>';
    const made = new Set(Array.from({ length: 20 }, () => page(text, { l: ['a', 'b'] })));
    expect(made.size).toBe(1);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Money, record, type Rendered, type Trace, type Value } from '../index';
import { randomData, randomFiles } from '../testing/random-templates';
import { pageOf, themeOf } from '../testing/theme-of';
import { withoutMarks } from '../3-compile/sites';

const traced = (files: Record<string, string> | Record<string, string>[], data: Record<string, Value> = {}) => {
  const made = pageOf(themeOf(files), data, { traced: true });
  return { ...made, trace: made.trace as Trace };
};

/** Marks of a page's elements, as template:line:column of each, in the order of the page. */
function marks({ html, trace }: Rendered & { trace: Trace }): string[] {
  return [...html.matchAll(/<([a-z]+\d?) data-last-at="(\d+)\.(\d+)"/g)].map(([, name, frame, site]) => {
    const { source, from } = trace.site(Number(frame), Number(site));
    const { line, column } = source.place(from);
    return `${name} ${source.layer}:${source.file}:${line}:${column}`;
  });
}

/** Paths of what a page prints in text, in its order. */
function paths({ html, trace }: Rendered & { trace: Trace }): string[] {
  return [...html.matchAll(/<!--last (\d+)\.(\d+)-->/g)].map(([, frame, site]) => {
    const { expression } = trace.site(Number(frame), Number(site));
    return expression ? trace.path(Number(frame), expression) : '';
  });
}

describe('a traced page without its marks is the live page, byte for byte', () => {
  it('for random templates', () => {
    fc.assert(
      fc.property(randomFiles, (files) => {
        const theme = themeOf(files);
        const live = pageOf(theme, randomData, { steps: 5000 });
        fc.pre(live.problems.every((one) => one.code !== 'budget'));
        const preview = pageOf(theme, randomData, { steps: 5000, traced: true });
        expect(withoutMarks(preview.html)).toBe(live.html);
        expect(preview.problems.map((one) => one.message)).toEqual(live.problems.map((one) => one.message));
      }),
      { numRuns: 1500 },
    );
  });
  it('marks what it makes: none of those pages is free of marks by chance', () => {
    const { html } = traced({ 'product/default.html': '<p>a {x} b</p>' }, { x: 'v' });
    expect(html).toBe('<p data-last-at="0.0">a <!--last 0.1-->v<!--/last--> b</p>');
  });
});

describe('where an element comes from', () => {
  it('its layer, file, line and column, through pieces, gaps and amendments', () => {
    const page = traced([
      {
        'product/default.html': '<draw name="layouts/shop">\n  <h1 do:mark="n">x</h1>\n</draw>',
        'layouts/shop.html': '<main>\n<gap></gap></main>',
      },
      { 'product/default.html': '<amend>\n<after mark="n"><p>y</p></after>\n</amend>' },
    ]);
    expect(marks(page)).toEqual([
      'main base:layouts/shop.html:1:1',
      'h1 base:product/default.html:2:3',
      'p shop:product/default.html:2:17',
    ]);
  });
  it('the way there: what was drawn, the turn of the loop, the gap that it fills', () => {
    const { html, trace } = traced(
      {
        'product/default.html': '<draw name="layouts/shop"><draw name="pieces/list" items="{l}"/></draw>',
        'layouts/shop.html': '<main><gap></gap></main>',
        'pieces/list.html': '<takes name="items" type="list"><li do:each="x in items">{x}</li>',
      },
      { l: ['a', 'b'] },
    );
    const frame = Number(/<li data-last-at="(\d+)\.\d+">b/.exec(html)?.[1]);
    const trail = trace.trail(frame);
    expect(trail.map((at) => trace.templates[trace.templateOf[at] as number]?.name)).toEqual([
      'product/default',
      'product/default',
      'pieces/list',
      'pieces/list',
    ]);
    expect(trail.map((at) => trace.indexes[at])).toEqual([-1, -1, -1, 1]);
    const gap = trace.gaps.get(trail[1] as number);
    expect(gap && trace.site(gap.frame, gap.site).source.file).toBe('layouts/shop.html');
  });
});

describe('the data path of a value', () => {
  const tile = record({ name: 'Rope', tags: [record({ name: 'one' }), record({ name: 'two' })] });
  const table: [name: string, files: Record<string, string>, paths: string[]][] = [
    ['of the page itself', { 'product/default.html': 'a{product.name}' }, ['product.name']],
    [
      'in a loop in a loop',
      { 'product/default.html': '<group do:each="p in products"><b do:each="t in p.tags">.{t.name}</b></group>' },
      ['products[0].tags[0].name', 'products[0].tags[1].name', 'products[1].tags[0].name', 'products[1].tags[1].name'],
    ],
    [
      'through pieces, each with names of its own',
      {
        'product/default.html': '<draw name="pieces/tiles" goods="{products | first(1)}"/>',
        'pieces/tiles.html':
          '<takes name="goods" type="list"><draw name="pieces/tile" item="{it2}" do:each="it2 in goods"/>',
        'pieces/tile.html': '<takes name="item" type="Product"><p do:let="n = item.name">-{n | upper}</p>',
      },
      ['(products | first(1))[0].name | upper'],
    ],
    [
      'in what fills a gap: the names of where it is written',
      {
        'product/default.html': '<b do:each="p in products"><draw name="pieces/box" p="{product}">.{p.name}</draw></b>',
        'pieces/box.html': '<takes name="p" type="Product"><i>{p.name}!<gap></gap></i>',
      },
      ['product.name', 'products[0].name', 'product.name', 'products[1].name'],
    ],
  ];
  for (const [name, files, expected] of table)
    it(name, () => expect(paths(traced(files, { product: tile, products: [tile, tile] }))).toEqual(expected));
});

describe('how a condition came out, and what decided', () => {
  const data = { product: record({ was_price: null, price: new Money(100, 'GBP'), name: 'Rope', stock: 3 }) };
  const table: [test: string, held: boolean, part: string, value: unknown][] = [
    ['product.was_price', false, 'product.was_price', null],
    ['product.name and product.was_price', false, 'product.was_price', null],
    ['product.was_price or product.name', true, 'product.name', 'Rope'],
    ['not product.was_price', true, 'product.was_price', null],
    ['product.was_price and product.name', false, 'product.was_price', null],
    ["product.name == 'Cord'", false, "product.name == 'Cord'", ['Rope', 'Cord']],
    ['product.stock > 2 and product.name', true, 'product.name', 'Rope'],
    ['product.stock > 2', true, 'product.stock > 2', [3, 2]],
  ];
  for (const [test, held, part, value] of table) {
    it(test, () => {
      const { trace } = traced({ 'product/default.html': `<p do:when="${test}">x</p>` }, data);
      const [frame, site, came, decided] = trace.conditions as [number, number, number, number];
      expect(came === 1).toBe(held);
      const { parts, source } = trace.site(frame, site);
      const by = parts[decided];
      expect(by && source.slice(by.from, by.to)).toBe(part);
      expect(trace.decided).toEqual([value]);
    });
  }
  it('of or-when and otherwise too, each time it is asked', () => {
    const { trace } = traced({
      'product/default.html':
        '<group do:each="x in [1, 2, 3]"><i do:when="x == 1">a</i><i do:or-when="x == 2">b</i><i do:otherwise>c</i></group>',
    });
    const held = Array.from({ length: trace.conditions.length / 4 }, (_, at) => trace.conditions[at * 4 + 2]);
    expect(held).toEqual([1, 0, 0, 1, 0, 0, 0, 1]);
  });
  it('a loop tells its number of items', () => {
    const { trace } = traced({
      'product/default.html': '<i do:each="x in [1, 2, 3]">{x}</i><i do:each="x in none">{x}</i>',
    });
    expect([trace.loops[2], trace.loops[5]]).toEqual([3, 0]);
  });
});

describe('where only text can stand there is no mark', () => {
  const files = {
    'product/default.html': '<draw name="layouts/shop"><fill gap="t"><b>{x}</b></fill></draw>',
    'layouts/shop.html':
      '<title><gap name="t"></gap> <draw name="pieces/name" x="v"/></title><textarea>{1 + 1}</textarea>',
    'pieces/name.html': '<takes name="x" type="text">{x}',
  };
  it('in titles, through gaps and pieces', () =>
    expect(traced(files, { x: 'a' }).html).toBe(
      '<title data-last-at="1.0"><b>a</b> v</title><textarea data-last-at="1.3">2</textarea>',
    ));
});

describe('a piece that fails', () => {
  const files = {
    'product/default.html': '<h1>a</h1>\n<draw name="pieces/loop"/><p>b</p>',
    'pieces/loop.html': '<i do:each="a in range(1, 9000)"><b do:each="b in range(1, 9000)">x</b></i>',
  };
  const made = (on: boolean) => pageOf(themeOf(files), {}, { steps: 20_000, traced: on }).html;
  it('is left out of the live page', () => expect(made(false)).toBe('<h1>a</h1>\n<p>b</p>'));
  it('has a notice in its place in a preview, with file and line', () => {
    expect(made(true)).toMatch(
      /<span data-last-notice="0\.\d+">“pieces\/loop” was ended[^<]*\(product\/default\.html, line 2\)<\/span>/,
    );
    expect(withoutMarks(made(true))).toBe(made(false));
  });
});

import fc from 'fast-check';
import { Day, Html, Money, record, type Value } from '../index';

/** For tests: templates made at random, well written, over the data of `randomData`. */

const flow = ['div', 'section', 'span', 'b', 'em', 'article', 'details', 'label', 'blockquote'];
const strict = [
  'p',
  'ul',
  'li',
  'a',
  'h2',
  'table',
  'tbody',
  'tr',
  'td',
  'select',
  'option',
  'form',
  'button',
  'svg',
  'g',
  'title',
  'summary',
  'dl',
  'dt',
  'dd',
];
const voids = ['br', 'hr', 'img', 'input'];

const path = fc.constantFrom(
  'name',
  'item.name',
  'item.price',
  'items',
  'item.tags',
  'gone',
  'item.gone',
  'flag',
  'number',
  'day',
  'rich',
  'x',
  'y',
  "item['name']",
  'items[0].name',
  'long',
  'x.name',
  'shop.name',
);

const { expression } = fc.letrec<{ expression: string }>((tie) => ({
  expression: fc.oneof(
    { maxDepth: 3, withCrossShrink: true },
    path,
    fc.constantFrom(
      "'a & b'",
      '"<i>"',
      '12',
      '1.5',
      'true',
      'false',
      'none',
      "['a', name]",
      'record(a: 1)',
      'range(1, 3)',
      "t('k', count: 2)",
    ),
    fc
      .tuple(
        tie('expression'),
        fc.constantFrom('+', '-', '*', '/', '%', '==', '!=', '<', '>=', 'in', 'not in', 'and', 'or'),
        tie('expression'),
      )
      .map(([a, o, b]) => `(${a} ${o} ${b})`),
    tie('expression').map((a) => `(not ${a})`),
    fc.tuple(tie('expression'), tie('expression'), tie('expression')).map(([a, b, c]) => `(${a} ? ${b} : ${c})`),
    fc
      .tuple(
        tie('expression'),
        fc.constantFrom(
          'upper',
          'count',
          'first',
          'first(1)',
          "join('-')",
          'shorten(4)',
          'plain',
          'reverse',
          'keep(it)',
          'pluck(it.name)',
          'sort_by(it)',
          'json',
          'sum',
          'entries',
        ),
      )
      .map(([a, f]) => `(${a} | ${f})`),
  ),
}));

const quoted = (text: string): string => text.replaceAll('"', "'").replaceAll("'<i>'", "'<i>'");
const attribute = fc.oneof(
  fc
    .tuple(fc.constantFrom('title', 'class', 'href', 'data-a', 'alt', 'srcset', 'value', 'hidden'), expression)
    .map(([n, e]) => ` ${n}="{${quoted(e)}}"`),
  fc
    .tuple(fc.constantFrom('title', 'class', 'href', 'aria-label'), expression)
    .map(([n, e]) => ` ${n}="a {${quoted(e)}} b"`),
  fc.constantFrom(' id="i"', ' class="a  b"', ' disabled', " title='t'", ' data-x=1'),
);
const directive = fc.oneof(
  expression.map((e) => ` do:when="${quoted(e)}"`),
  fc.constantFrom(
    ' do:each="x in items"',
    ' do:each="x, y in item.tags"',
    ' do:let="y = item.name"',
    ' do:once',
    ' do:mark="m"',
  ),
  expression.map((e) => ` do:let="x = ${quoted(e)}"`),
);
const text = fc.constantFrom(
  'text',
  ' ',
  '\n  ',
  'a &amp; b',
  '&lt;',
  'é',
  '<!-- c -->',
  '<!--: t :-->',
  '\n<!--: t :-->\n',
  '🪢',
);

const nodesOf = (names: readonly string[]) =>
  fc.letrec<{ nodes: string; element: string }>((tie) => ({
    nodes: fc
      .array(
        fc.oneof(
          { maxDepth: 4, depthSize: 'small' },
          text,
          expression.map((e) => `{${e}}`),
          tie('element'),
        ),
        { maxLength: 4 },
      )
      .map((all) => all.join('')),
    element: fc.oneof(
      fc
        .tuple(
          fc.constantFrom(...names),
          fc.array(attribute, { maxLength: 2 }),
          fc.option(directive, { nil: '' }),
          tie('nodes'),
        )
        .map(
          ([n, a, d, c]) =>
            `<${n}${a.filter((one, at) => a.findIndex((other) => other.trim().split('=')[0] === one.trim().split('=')[0]) === at).join('')}${d}>${c}</${n}>`,
        ),
      fc.constantFrom(...voids).map((n) => `<${n}>`),
      fc.tuple(directive, tie('nodes')).map(([d, c]) => `<group${d}>${c}</group>`),
      fc
        .tuple(expression, tie('nodes'), tie('nodes'))
        .map(([e, a, b]) => `<i do:when="${quoted(e)}">${a}</i><i do:otherwise>${b}</i>`),
      fc
        .tuple(expression, tie('nodes'))
        .map(([e, c]) => `<draw name="pieces/a" given="{${quoted(e)}}">${c}<fill gap="head"><b>h</b></fill></draw>`),
      fc.constantFrom(
        '<draw name="pieces/b" item="{item}"/>',
        '<draw name="pieces/gone"/>',
        '<gap></gap>',
        '<shelf name="s">f</shelf>',
      ),
    ),
  })).nodes;

/** A page template and two pieces, of elements of these names. */
const filesOf = (names: readonly string[]) => {
  const nodes = nodesOf(names);
  return fc.tuple(nodes, nodes, nodes).map(([page, a, b]): Record<string, string> => ({
    'product/default.html': page,
    'pieces/a.html': `<takes name="given" type="text" default="d">\n<div title="{given}"><gap name="head">none</gap>${a}<gap></gap></div>`,
    'pieces/b.html': `<takes name="item" type="Product">${b}`,
  }));
};

/** Templates of elements that may stand almost anywhere. */
export const flowFiles = filesOf(flow);
/** Templates of any elements, in any order: most of them a browser would rearrange. */
export const randomFiles = fc.oneof(flowFiles, filesOf([...flow, ...strict]));

const tag = (name: string) => record({ name, slug: name.toLowerCase(), url: `/listing/tag/${name}` });
const item = record({
  name: 'Rope & "cord"',
  price: new Money(1250, 'GBP'),
  tags: [tag('One'), tag('Two <2>')],
  gone: null,
});

/** What random templates print. */
export const randomData: Record<string, Value> = {
  name: "O'Hara & <sons>",
  item,
  items: [item, record({ name: '', price: null, tags: [] }), tag('Three')],
  flag: false,
  number: 0,
  day: Day.read('2026-03-01'),
  rich: new Html('<b>rich</b> text'),
  long: 'long '.repeat(80),
  shop: record({ name: 'Withy Quay' }),
};

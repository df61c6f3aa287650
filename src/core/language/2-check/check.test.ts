import { describe, expect, it } from 'vitest';
import { applyFix, problemKinds, type SiteFacts } from '../index';
import { codesOf, strict } from '../testing/theme-of';

const site: SiteFacts = {
  contents: new Set(['care', 'delivery']),
  locales: ['en-GB'],
  menus: new Set(['main']),
  named: (object) => new Set(object === 'Tag' ? ['load-rated', 'Load rated'] : ['rope']),
  leads: (path) => path === '/content/care',
  emptiness: (object, path) =>
    object === 'Product' && path.join('.') === 'was_price' ? { empty: 1163, total: 1200, example: 'Deck oil' } : null,
};

/** Problems of a product page, by code; notes too. */
const codes = (text: string, more: Record<string, string> = {}, file = 'product/default.html') =>
  strict({ [file]: text, ...more }, site)
    .check(file.replace('.html', ''))
    .map((one) => one.code);

const words = { 'words/en.json': '{"a":{"b":"B","n":"{count} of {all}","items":{"one":"one","other":"{count}"}}}' };
const icons = { 'assets/icons/anchor.svg': '<svg></svg>', 'assets/css/shop.css': '' };

describe('what is wrong', () => {
  const table: [code: keyof typeof problemKinds, text: string, more?: Record<string, string>, file?: string][] = [
    ['name', '{prodct.name}'],
    ['name', '<p do:let="a = b">{a}</p>'],
    ['name', '{product.name}', {}, 'pieces/a.html'],
    ['name', '<p do:each="x in product.tags">{x.name}</p>{x.name}'],
    ['field', '{product.prize}'],
    ['field', '{product.brand.nme}'],
    ['field', '{product.fields.leadtime}'],
    ['field', '{product.tags.name}'],
    ['field', '{product.tags[0].label}'],
    ['field', "{product['prize']}"],
    ['field', '<p do:each="t in product.tags">{t.title}</p>'],
    ['field', '<p do:each="t, at in product.tags">{at.last}</p>'],
    ['field', '{product.tags | pluck(it.title)}'],
    ['field', '<p do:let="v = product.variant">{v.name}{v.titel}</p>'],
    ['field', '<p do:each="g in product.variants | group_by(it.price)">{g.key}{g.itms | count}</p>'],
    ['field', '<p do:each="r in product.related | rows(2)"><b do:each="p in r">{p.nme}</b></p>'],
    ['field', '<p do:each="t in product.related | split_by(\'colour\')">{t.product.nme}</p>'],
    ['field', '{(product.variants | first).pice}'],
    ['field', '{look.accnt}', { 'look.json': '{"settings":[{"name":"accent","value":"#123456"}]}' }],
    ['field', '{record(a: 1).b}'],
    ['filter', '{product.name | uper}'],
    ['function', "{ass('x')}"],
    ['argument', '{product.name | shorten}'],
    ['argument', "{product.name | shorten('4')}"],
    ['argument', '{product.name | upper(3)}'],
    ['argument', "{product.price | money('wide')}"],
    ['argument', '{product.image | sized(widht: 3)}'],
    ['argument', '{product.tags | keep | count}'],
    ['argument', "{product.tags | sort_by('down') | count}"],
    ['kind', '{product.name | count | round | upper | money}'],
    ['kind', '{product.tags | round}'],
    ['kind', '{product.name | first}'],
    ['kind', '{product.brand | sized(3)}'],
    ['kind', '{product.price + product.stock}'],
    ['kind', '{product.price * product.price}'],
    ['list', '<p do:each="x in product.name">{x}</p>'],
    ['list', '<p do:each="x in product.brand">{x}</p>'],
    ['prints-nothing', '{product}'],
    ['prints-nothing', '{product.tags}'],
    ['prints-nothing', '{none}'],
    ['never', '<p do:when="not product">x</p>'],
    ['never', '<p do:when="product.price > 10">x</p>'],
    ['never', '<p do:when="product.name == 3">x</p>'],
    ['never', '<p do:when="product.name and product.price == \'12.50\'">x</p>'],
    ['never', '<p do:when="\'rope\' in product.price">x</p>'],
    ['never', '<p do:when="\'lood-rated\' in product.tags">x</p>'],
    ['never', "{product.media | keep(it.kind == 'film') | count}"],
    ['never', "{1 == 2 ? 'a' : 'b'}"],
    ['always', '<p do:when="product">x</p>'],
    ['always', '<p do:when="product.name">x</p>'],
    ['always', '<p do:when="product.name != 3">x</p>'],
    ['always', '<p do:when="\'x\'">x</p>'],
    ['bare-number', '<p do:when="product.stock">x</p>'],
    ['bare-number', '<p do:when="product.tags | count">x</p>'],
    ['bare-number', '<p do:each="t, at in product.tags"><b do:when="at.index">{t.name}</b></p>'],
    ['rearranged', '<p><div>x</div></p>'],
    ['rearranged', '<ul><li><p><ul><li>x</li></ul></p></li></ul>'],
    ['rearranged', '<table><div>x</div></table>'],
    ['rearranged', '<table><tr><td>x</td></tr>{product.name}</table>'],
    ['rearranged', '<a href="/"><a href="/">x</a></a>'],
    ['rearranged', '<div><tr><td>x</td></tr></div>'],
    ['rearranged', '<p>{product.description}</p>'],
    ['rearranged', '<select>{product.description}</select>'],
    ['rearranged', '<form><form>x</form></form>'],
    ['rearranged', '<p><draw name="pieces/box"/></p>', { 'pieces/box.html': '<div>x</div>' }],
    ['rearranged', '<draw name="pieces/line"><div>x</div></draw>', { 'pieces/line.html': '<p><gap></gap></p>' }],
    ['missing', '<draw name="pieces/gone"/>'],
    ['gap', '<draw name="pieces/a"><fill gap="hed">x</fill></draw>', { 'pieces/a.html': '<gap name="head"></gap>' }],
    ['gap', '<draw name="pieces/a">x</draw>', { 'pieces/a.html': 'a' }],
    ['gap', "{filled('aside')}"],
    ['input', '<draw name="pieces/a" nam="x"/>', { 'pieces/a.html': '<takes name="name1" type="text">{name1}' }],
    [
      'input',
      '<draw name="pieces/a" p="{product.tags}"/>',
      { 'pieces/a.html': '<takes name="p" type="Product">{p.name}' },
    ],
    ['input', '<draw name="pieces/a" n="{product.name}"/>', { 'pieces/a.html': '<takes name="n" type="number">{n}' }],
    [
      'input',
      '<draw name="pieces/a" t="{product.variants}"/>',
      { 'pieces/a.html': '<takes name="t" type="List of Tag">{t | count}' },
    ],
    [
      'takes',
      '<draw name="pieces/a" c="rd"/>',
      { 'pieces/a.html': '<takes name="c" type="choice" options="red, blue">{c}' },
    ],
    ['takes', '<draw name="pieces/a" p="rope"/>', { 'pieces/a.html': '<takes name="p" type="Product">{p.name}' }],
    ['takes', '<takes name="a" type="List of Tagg">{a | count}', {}, 'pieces/a.html'],
    ['takes', '<takes name="a" type="number" default="x">{a}', {}, 'pieces/a.html'],
    ['takes', '<takes name="a" type="text"><takes name="a" type="text">{a}', {}, 'pieces/a.html'],
    ['phrase', "{t('a.c')}", words],
    ['phrase-value', "{t('a.n', count: 1)}", words],
    ['phrase-value', "{t('a.items')}", words],
    ['asset', "{asset('css/shp.css')}", icons],
    ['icon', "{icon('ancor')}", icons],
    ['content-page', "{content('car').title}"],
    ['menu', "{menu('mian') | count}"],
    ['link', '<a href="/content/car">x</a>'],
    ['fragment', "{fragment('pieces/a')}", { 'pieces/a.html': '<takes name="q" type="text">{q}' }],
    ['unused-input', '<takes name="a" type="text">x', {}, 'pieces/a.html'],
    ['unused-name', '<p do:let="a = 1; b = 2">{b}</p>'],
    ['at-final', '<p do:each="x, at in product.tags" do:when="x.name == \'a\'">{at.final}</p>'],
    ['empty-field', '<p>{product.was_price}</p>'],
    ['empty-field', '<p do:let="was = product.was_price">{was}</p>'],
    ['outside-order-form', '<ask name="end" label="End"></ask>', { 'pieces/ask/text.html': '<input>' }],
    [
      'ask',
      '<form method="post"><ask name="a" label="A"></ask><ask name="a" label="B"></ask></form>',
      { 'pieces/ask/text.html': '<input>' },
    ],
    ['ask', '<form method="post"><ask name="a" label="A" type="chioce"></ask></form>'],
    [
      'ask',
      '<form method="post"><ask name="a" label="A" type="choice"></ask></form>',
      { 'pieces/ask/choice.html': '<input>' },
    ],
    ['reserved', '<p data-last-at="1.1">x</p>'],
    ['element', '<shelf>x</shelf>'],
    ['amend', '<p>a</p><amend></amend>'],
  ];
  for (const [code, text, more, file] of table)
    it(`${code}: ${text}`, () => expect(codes(text, more, file)).toContain(code));
});

describe('what is right, and nothing is said of', () => {
  const table: [text: string, more?: Record<string, string>, file?: string][] = [
    ['{product.name}{shop.name}{visit.path}'],
    ['<p do:when="product.summary">{product.summary}</p>'],
    ['<p do:when="product.fields.lead_time">{product.fields.lead_time} days</p>'],
    ['<p do:when="product.stock > 0">{product.stock}</p>'],
    ['<p do:when="product.was_price">{product.was_price}</p>'],
    ['<p>{product.was_price or product.price}</p>'],
    ["<p class=\"{['a', product.sold_out and 'is-out']}\">x</p>"],
    ['<p do:when="\'load-rated\' in product.tags">x</p>'],
    ['<p do:each="m in product.media" do:when="m.kind == \'video\'">{m.url}</p>'],
    ['<p do:each="t, at in product.tags">{at.number}{at.previous.name}</p>'],
    ['<p do:let="main = product.image" do:when="main"><img src="{main.url}" alt="{main.alt}"></p>'],
    ['<img src="{product.image | sized(320)}" alt="{product.image.alt or product.name}">'],
    ["{product.variants | sort_by(it.price, 'down') | pluck(it.name)}"],
    ['{(product.tags | count) > 2 ? product.name : none}'],
    ["{product.added + 7 | date('long')}"],
    ['{product.price * 2}{product.price - product.price}'],
    ['{product.variants | sum(it.price * it.stock)}'],
    ['<table><tr><td>x</td></tr></table>'],
    ['<tr><td>x</td></tr>', {}, 'pieces/row.html'],
    ['<option>x</option>', {}, 'pieces/option.html'],
    ["<p>{icon('anchor')}</p>", icons],
    ['<p>{product.name}</p><div>{product.description}</div>'],
    ['<svg><g><path d="M0 0"/></g></svg>'],
    ['<ul><li do:when="product.brand">a</li><li do:otherwise>b</li></ul>'],
    ["{t('a.n', count: 1, all: 2)}{t('a.items', count: 1)}", words],
    ["{t('a.' + product.slug)}", words],
    ['<a href="/content/care?x=1#y">x</a><a href="https://example.com/">y</a>'],
    ["{fragment('pieces/a', q: product.name)}", { 'pieces/a.html': '<takes name="q" type="text" served>{q}' }],
    [
      '<form method="post"><ask name="a" label="A"></ask></form>',
      { 'pieces/ask/text.html': '<takes name="question" type="Question" required><input name="{question.name}">' },
    ],
    ['<takes name="count" type="number" default="4">{count}', {}, 'pieces/a.html'],
    ['<takes name="p" type="Product" required><p do:when="p">{p.name}</p>', {}, 'pieces/a.html'],
    ['<draw name="pieces/a" p="{product}"/>', { 'pieces/a.html': '<takes name="p" type="product" required>{p.name}' }],
    [
      '<draw name="pieces/a" path="{[]}"/>',
      { 'pieces/a.html': '<takes name="path" type="List of Category">{path | count}' },
    ],
  ];
  for (const [text, more, file] of table) it(text, () => expect(codes(text, more, file)).toEqual([]));
});

describe('fixes that are certain', () => {
  const table: [text: string, fixed: string][] = [
    ['{prodct.name}', '{product.name}'],
    ['{product.nmae | uper}', '{product.name | upper}'],
    ["{product.price | money('shrot')}", "{product.price | money('short')}"],
    ['<p do:wehn="product.brand">x</p>', '<p do:when="product.brand">x</p>'],
    ['<ul><li>a<li>b</ul>', '<ul><li>a</li><li>b</li></ul>'],
    ['<dl><dt>a<dd>b</dl>', '<dl><dt>a</dt><dd>b</dd></dl>'],
    ['<div><p>a\n<p>b\n</div>', '<div><p>a</p>\n<p>b</p>\n</div>'],
    ['<table><tr><td>a<td>b<tr><td>c</table>', '<table><tr><td>a</td><td>b</td></tr><tr><td>c</td></tr></table>'],
    ['<div><p>a<ul><li>b</li></ul></div>', '<div><p>a</p><ul><li>b</li></ul></div>'],
    ['<div/>', '<div></div>'],
    ['<p>a</br></p>', '<p>a</p>'],
  ];
  for (const [text, fixed] of table) {
    it(text, () => {
      const problems = strict({ 'product/default.html': text }, site).check('product/default');
      const edits = problems.flatMap((one) => one.fix?.edits ?? []);
      const result = applyFix(text, { title: '', edits });
      expect(result).toBe(fixed);
      expect(codes(result).filter((code) => ['unclosed', 'nesting', 'field', 'name'].includes(code))).toEqual([]);
    });
  }
  it('none where two names are as near: one is named, neither is written', () => {
    const [first] = strict({ 'listing/default.html': '{listing.pagex}' }, site).check('listing/default');
    expect([first?.code, first?.fix]).toEqual(['field', undefined]);
    expect(first?.message).toContain('did you mean “page');
  });
});

describe('of a whole theme', () => {
  it('a file that does not nest is reported there, and not in every page that draws it', () => {
    const files = { 'product/default.html': '<p><draw name="pieces/a"/></p><p>x</p>', 'pieces/a.html': '<b>a' };
    expect(codesOf(strict(files))).toEqual(['pieces/a.html:1 unclosed']);
  });
  it('a piece that nothing draws', () =>
    expect(codesOf(strict({ 'product/default.html': 'x', 'pieces/a.html': 'a' }), true)).toEqual([
      'pieces/a.html:1 unused-piece',
    ]));
  it('but not one that is served, placed on a shelf, or may be drawn by a value', () => {
    const pieces = {
      'pieces/a.html': '<takes name="q" type="text" served>{q}',
      'pieces/b.html': 'b',
      'product/default.html': '<shelf name="s">x</shelf>',
      'shelves.json': '{"placements":[{"shelf":"s","piece":"pieces/b"}]}',
    };
    expect(codesOf(strict(pieces), true)).toEqual([]);
  });
  it('each problem has a severity, an explanation and a way to fix it', () => {
    for (const [code, { explanation, howToFix }] of Object.entries(problemKinds))
      expect([code, explanation.length > 20, howToFix.length > 5]).toEqual([code, true, true]);
  });
});

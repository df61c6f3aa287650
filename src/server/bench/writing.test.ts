import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { complete } from '@/core/editing/complete';
import { formatTemplate } from '@/core/editing/format';
import { hoverAt } from '@/core/editing/hover';
import { definitionOf, renaming, thingAt, usesOf, type Thing } from '@/core/editing/things';
import { KnownFacts } from '@/core/catalogue/known-facts';
import { Theme } from '@/core/theme/theme';
import { themeSnapshot } from '@/server/drafts/files';
import { draftOf } from '@/server/shop/states';
import { demoShop } from '@/server/testing/demo-shop';

const shop = demoShop();
const draft = draftOf(shop, 'spring');
const { theme } = shop.theme(draft);

/** The theme with a text in the shop's layer, its caret at `|`. */
function typing(path: string, marked: string): { theme: Theme; text: string; offset: number } {
  const offset = marked.indexOf('|');
  const text = marked.slice(0, offset) + marked.slice(offset + 1);
  return { theme: shop.themeWith(draft, [{ path, text }]).theme, text, offset };
}

const labels = (path: string, marked: string): string[] => {
  const { theme: now, text, offset } = typing(path, marked);
  return (complete(now, path, text, offset)?.options ?? []).map(({ label }) => label);
};

describe('completion', () => {
  const table: [string, string, string, string[], string[]][] = [
    ['names in reach', 'product/default.html', '<p>{|}</p>', ['product', 'shop', 'look', 't'], ['category']],
    ['fields of a path', 'product/default.html', '<p>{product.|}</p>', ['name', 'price', 'fields'], ['email']],
    ['custom fields', 'product/default.html', '<p>{product.fields.le|}</p>', ['lead_time'], ['name']],
    [
      'the item of a loop',
      'product/default.html',
      '<ul><li do:each="tag in product.tags">{tag.|}</li></ul>',
      ['name', 'url'],
      ['price'],
    ],
    [
      'what a let names',
      'product/default.html',
      '<p do:let="first = product.variants \u0001 first">{first.|}</p>',
      ['sku', 'stock'],
      ['tags'],
    ],
    ['inside a directive', 'product/default.html', '<p do:when="product.|">x</p>', ['on_sale'], []],
    [
      'after a comparison',
      'product/default.html',
      '<p do:when="product.stock > 1 and product.|">x</p>',
      ['on_sale'],
      [],
    ],
    ['filters', 'product/default.html', '<p>{product.name \u0001 |}</p>', ['upper', 'shorten'], ['product']],
    [
      'it in a filter',
      'product/default.html',
      '<p>{product.variants \u0001 keep(it.|)}</p>',
      ['stock', 'sold_out'],
      ['tags'],
    ],
    ['phrases', 'product/default.html', "<p>{t('product.|')}</p>", ['product.sold_out'], []],
    ['files', 'product/default.html', '<img src="{asset(\'img/|\')}" alt="">', ['img/mark.svg'], []],
    [
      'pieces to draw',
      'product/default.html',
      '<draw name="pieces/st|"/>',
      ['pieces/stock', 'layouts/shop'],
      ['product/default'],
    ],
    [
      'inputs of a piece',
      'product/default.html',
      '<draw name="pieces/price" |/>',
      ['product', 'variant', 'do:when'],
      ['name'],
    ],
    [
      'gaps of what is drawn',
      'product/default.html',
      '<draw name="layouts/shop" title="x"><fill gap="|"></fill></draw>',
      ['head'],
      [],
    ],
    [
      'marks of the file below',
      'product/default.html',
      '<amend><after mark="|"></after></amend>',
      ['stock', 'price'],
      [],
    ],
    [
      'marks of what an alternate amends',
      'product/rated.html',
      '<amend of="product/default"><after mark="|"></after></amend>',
      ['stock', 'price'],
      [],
    ],
    [
      'templates to amend',
      'product/rated.html',
      '<amend of="product/|"></amend>',
      ['product/default', 'pieces/tile'],
      ['product/rated'],
    ],
    ['types of inputs', 'pieces/x.html', '<takes name="a" type="|">', ['number', 'Product'], []],
    ['elements of the language', 'product/default.html', '<dr|', ['draw', 'group'], []],
    ['nothing in plain text', 'product/default.html', '<p>Hello |</p>', [], ['product']],
  ];
  for (const [name, path, given, wanted, unwanted] of table) {
    it(name, () => {
      // `|` is the caret: the language's own bar is written \u0001 here.
      const offset = given.indexOf('|');
      const text = (given.slice(0, offset) + given.slice(offset + 1)).replaceAll('\u0001', '|');
      const now = shop.themeWith(draft, [{ path, text }]).theme;
      const found = (complete(now, path, text, offset)?.options ?? []).map(({ label }) => label);
      for (const one of wanted) expect(found).toContain(one);
      for (const one of unwanted) expect(found).not.toContain(one);
    });
  }

  it('puts the filters that fit the value first', () => {
    const path = 'product/default.html';
    const text = '<p>{product.tags | }</p>';
    const now = shop.themeWith(draft, [{ path, text }]).theme;
    const { options = [] } = complete(now, path, text, text.indexOf('}')) ?? {};
    const ranked = [...options].sort((a, b) => b.rank - a.rank);
    expect(ranked.slice(0, 12).map(({ label }) => label)).toContain('first');
    expect(ranked.slice(0, 12).map(({ label }) => label)).not.toContain('upper');
  });

  it('counts what can be empty', () => {
    expect(labels('product/default.html', '<p>{product.|}</p>').length).toBeGreaterThan(20);
  });
});

describe('what a source names', () => {
  const path = 'product/default.html';
  const text = theme.file(path)?.text ?? '';
  const at = (part: string, ahead = 0): Thing | undefined =>
    thingAt(theme, path, 'Quay', text, text.indexOf(part) + ahead)?.thing;

  it('is found at the caret', () => {
    expect(at('pieces/stock', 3)).toEqual({ kind: 'piece', name: 'pieces/stock', of: '' });
    expect(at('variant="{product.variant}" do:mark="price"', 2)).toEqual({
      kind: 'input',
      name: 'variant',
      of: 'pieces/price',
    });
    expect(at('do:mark="stock"', 10)).toEqual({ kind: 'mark', name: 'stock', of: 'product/default' });
    expect(at("t('product.members')", 4)).toEqual({ kind: 'phrase', name: 'product.members', of: '' });
    expect(at('gap="head"', 6)).toEqual({ kind: 'gap', name: 'head', of: 'layouts/shop' });
  });

  it('leads to where it is made', () => {
    const piece = definitionOf(theme, { kind: 'piece', name: 'pieces/stock', of: '' });
    expect(piece).toEqual({ file: 'pieces/stock.html', layer: 'Quay', from: 0 });
    const input = definitionOf(theme, { kind: 'input', name: 'variant', of: 'pieces/price' });
    expect(theme.file('pieces/price.html')?.text?.slice(input?.from).startsWith('variant"')).toBe(true);
    const phrase = definitionOf(theme, { kind: 'phrase', name: 'product.sold_out', of: '' });
    expect(theme.layers[0]?.files.get('words/en.json')?.text?.slice(phrase?.from)).toMatch(/^"sold_out"/);
    expect(definitionOf(theme, { kind: 'mark', name: 'stock', of: 'product/default' })?.file).toBe(path);
  });

  it('is listed wherever it is named, amendments included', () => {
    const amended = shop.themeWith(draft, [
      { path, text: '<amend><after mark="stock"><p>x</p></after></amend>' },
    ]).theme;
    const uses = usesOf(amended, { kind: 'mark', name: 'stock', of: 'product/default' });
    expect(uses.map(({ layer, defines }) => [layer, defines])).toEqual([
      ['Quay', true],
      ['Withy Quay', false],
    ]);
    const draws = usesOf(theme, { kind: 'piece', name: 'pieces/stock', of: '' }).map(({ file }) => file);
    expect(new Set(draws)).toEqual(new Set(['product/default.html', 'pieces/chosen.html']));
  });

  it('is renamed in every place, and nowhere else', () => {
    const piece =
      '<takes name="note" type="text">\n<p do:each="note in range(1, 2)">{note}</p><p>{note} {product.note}</p>\n';
    const page = '<draw name="pieces/own" note="a"/>';
    const own = shop.themeWith(draft, [
      { path: 'pieces/own.html', text: piece },
      { path: 'content/own.html', text: page },
    ]).theme;
    const edits = renaming(own, { kind: 'input', name: 'note', of: 'pieces/own' }, 'remark');
    const made = (file: string, from: string) =>
      [...(edits.find((one) => one.file === file)?.edits ?? [])]
        .sort((a, b) => b.from - a.from)
        .reduce((now, edit) => now.slice(0, edit.from) + edit.text + now.slice(edit.to), from);
    expect(made('pieces/own.html', piece)).toBe(
      '<takes name="remark" type="text">\n<p do:each="note in range(1, 2)">{note}</p><p>{remark} {product.note}</p>\n',
    );
    expect(made('content/own.html', page)).toBe('<draw name="pieces/own" remark="a"/>');
  });
});

describe('hovers', () => {
  const path = 'product/default.html';
  const text = theme.file(path)?.text ?? '';
  const hovered = (part: string, ahead: number) => hoverAt(theme, path, 'Quay', text, text.indexOf(part) + ahead);
  it('explain directives, elements, fields, filters and phrases', () => {
    expect(hovered('do:when', 3)?.says).toMatch(/only when this is not empty/);
    expect(hovered('<shelf', 3)?.title).toBe('<shelf>');
    expect(hovered('product.brand.name', 9)).toMatchObject({
      title: expect.stringContaining('Product.brand'),
      says: 'who makes it',
    });
    expect(hovered('drop(it.root)', 1)?.says).toBeTruthy();
    expect(hovered("'product.members'", 4)?.says).toMatch(/^“/);
    expect(hovered('pieces/stock', 3)?.says).toContain('variant: Variant');
  });
});

describe('formatting', () => {
  it('indents by depth and leaves what is seen as it is written', () => {
    const given = '<div>\n<p>a\nb</p>\n    <pre>\n x\n</pre>\n<img\nsrc="a"\nalt="">\n</div>\n';
    expect(formatTemplate(given)).toBe(
      '<div>\n  <p>a\n    b</p>\n  <pre>\n x\n</pre>\n  <img\n      src="a"\n      alt="">\n</div>\n',
    );
    expect(formatTemplate('<p>{a')).toBeNull();
  });

  it('changes nothing but white space at the ends of lines, and nothing twice', () => {
    const bare = (text: string) =>
      text
        .split('\n')
        .map((line) => line.trim())
        .join('\n');
    for (const folder of readdirSync('themes/quay-1.0', { recursive: true, encoding: 'utf8' })) {
      if (!folder.endsWith('.html')) continue;
      const text = readFileSync(join('themes/quay-1.0', folder), 'utf8');
      const made = formatTemplate(text);
      expect(made && bare(made)).toBe(bare(text));
      expect(made && formatTemplate(made)).toBe(made);
    }
  });
});

describe('the theme in the browser', () => {
  it('finds the same problems as the server, once it learned what it asked for', () => {
    const snapshot = themeSnapshot(shop, draft);
    const facts = new KnownFacts(snapshot.facts);
    const layers = snapshot.layers.map((layer) => ({
      ...layer,
      files: new Map(layer.files.map(({ path, hash, text }) => [path, { hash, text }])),
    }));
    const source = shop.catalogue();
    const text =
      '<h1>{product.nmae}</h1><p>{product.summary}</p><a href="/content/nowhere">x</a><p>{t(\'no.such\')}</p>';
    const own = layers[layers.length - 1];
    own?.files.set('product/default.html', { hash: `typed ${text}`, text });
    const made = () =>
      new Theme(layers, snapshot.locale, { definitions: (subject) => source.fieldDefinitions(subject), site: facts });
    made().check('product/default');
    expect(facts.wanted.size).toBeGreaterThan(0);
    for (const { object, path } of [...facts.wanted.values()])
      facts.learn(object, path, shop.facts().emptiness(object, path));
    const here = made().check('product/default');
    const there = shop.themeWith(draft, [{ path: 'product/default.html', text }]).theme.check('product/default');
    expect(here).toEqual(there);
    expect(here.map(({ code }) => code)).toEqual(expect.arrayContaining(['field', 'phrase', 'empty-field']));
  });
});

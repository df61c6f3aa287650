import { cpSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { applyFix, type Problem, type ProblemCode } from '@/core/language';
import { exportTo } from '@/server/goods/export';
import { demoShop } from '@/server/testing/demo-shop';
import { checkCommand } from '@/server/commands/theme-commands';

/** A mistake put into a copy of the base theme: what stands there, what is written instead, and the code that it must get. */
interface Planted {
  file: string;
  good: string;
  bad: string;
  code: ProblemCode;
  /** Whether one fix is certain: it must give back what stood there. */
  fixes: boolean;
  /** Lines below the mistake at which it shows. */
  below?: number;
}

const plant = (file: string, good: string, bad: string, code: ProblemCode, fixes = false): Planted => ({
  file: file.includes('.') ? file : `${file}.html`,
  good,
  bad,
  code,
  fixes,
});

/** Written from the language reference, not from what the checker says. */
const planted: Planted[] = [
  plant('product/default', '{product.name}</h1>', '{product.nmae}</h1>', 'field', true),
  plant('product/default', 'do:when="product.brand"', 'do:wehn="product.brand"', 'directive', true),
  plant('product/default', '<draw name="pieces/choice"', '<draw name="pieces/choise"', 'missing', true),
  plant(
    'product/default',
    'variant="{product.variant}" do:mark="price"',
    'varaint="{product.variant}" do:mark="price"',
    'input',
    true,
  ),
  plant('product/default', '<draw name="pieces/gallery" product="{product}"', '<draw name="pieces/gallery"', 'takes'),
  plant('product/default', 'tags="{product.tags}"', 'tags="{product.name}"', 'input'),
  plant('product/default', "<h2>{t('product.members')}</h2>", "<p><div>{t('product.members')}</div></p>", 'rearranged'),
  plant('product/default', '<section do:when="product.related"', '<section do:when="product.stock"', 'bare-number'),
  plant(
    'product/default',
    '<p class="lead" do:when="product.summary"',
    '<p class="lead" do:when="product.name"',
    'always',
  ),
  plant('pieces/tile', '{product.name}<span', '{prodcut.name}<span', 'name', true),
  plant('pieces/tile', '| shorten(80)', '| shortne(80)', 'filter', true),
  plant('pieces/tile', '<p class="badge" do:when="out"', '<p class="badge" do:when="product.price > 10"', 'never'),
  // The end tag that is missing is missed where the next one stands, a line below.
  { ...plant('pieces/tags', '{tag.name}</a></li>', '{tag.name}</a>', 'nesting', true), below: 1 },
  plant('layouts/shop', "asset('css/shop.css')", "asset('css/shpo.css')", 'asset', true),
  plant('layouts/shop', "{listing_url(search: '')", "{listing_ulr(search: '')", 'function', true),
  plant('layouts/shop', "menu('main')", "menu('mian')", 'menu', true),
  plant(
    'layouts/shop',
    '<p class="foot-name" do:mark="footer-name">',
    '<p class="foot-name" do:mark="footer-name" onclick="x({shop.name})">',
    'script-attribute',
  ),
  plant('layouts/shop', '<link rel="icon"', '<link rel="{shop.name}"', 'literal-only'),
  plant(
    'layouts/shop',
    '<div class="page foot-row">',
    '<div class="page foot-row" style="{look.accent}: red">',
    'style-property',
  ),
  plant('pieces/breadcrumbs', "t('layout.home')", "t('layout.hoem')", 'phrase', true),
  plant('pieces/gallery', '<ul class="thumbs"', '<p do:otherwise>x</p><ul class="thumbs"', 'otherwise'),
  plant('listing/default', "do:when=\"listing.kind == 'search' and", "do:when=\"listing.kind == 'serach' and", 'never'),
  plant('listing/default', '<fill gap="head">', '<fill gap="haed">', 'gap'),
  plant('category/default', '{category.name}</h1>', '{category.name</h1>', 'expression'),
  plant('category/default', 'do:each="child in category.children"', 'do:each="child in category.name"', 'list'),
  plant(
    'category/default',
    '<small>{child.product_count}</small>',
    '<small>{category.parent}</small>',
    'prints-nothing',
  ),
  plant(
    'content/default',
    '<h1 do:mark="title">{content.title}</h1>',
    '<h1 do:mark="title">{content.title}<group do:let="one = content(\'delivrey\')" do:when="one">{one.title}</group></h1>',
    'content-page',
  ),
  plant('pieces/row/hero', '<h1>{title or', '<h1><a href="/content/delivry">x</a>{title or', 'link'),
  plant('pieces/teasers', 'shorten(110)', "shorten(110, '…', 2)", 'argument'),
  plant(
    'pieces/filter-name',
    "'filter.price_from', from: value.from | money('short')",
    "'filter.price_from', from: value.from | money('shrot')",
    'argument',
    true,
  ),
  plant('pieces/price', ': product.price_high"', ': product.price_hihg"', 'field', true),
  plant('pieces/price', 'was = variant ?', 'old = product.sku; was = variant ?', 'unused-name'),
  plant(
    'pieces/gallery',
    '<li do:each="one, at in media">',
    '<li do:each="one, at in media" do:when="one.alt" class="{at.final and \'end\'}">',
    'at-final',
  ),
  plant('pieces/teasers', 'name="columns" type="number"', 'name="columns" type="nubmer"', 'takes'),
  plant('pieces/tiles', '<li do:each="one, at in shown">', '<li/><li do:each="one, at in shown">', 'self-closing'),
  plant('pieces/attributes', '<dd>{attribute.value}</dd>', "<dd>{attribute.value | join(', ', 2)}</dd>", 'argument'),
  plant(
    'content/default',
    '<p class="lead" do:when="content.summary" do:mark="summary">',
    '<p class="lead" do:mark="summary">',
    'empty-field',
  ),
  plant(
    'not-found/default',
    "<h1>{t('not_found.title')}</h1>",
    "<h1 do:when=\"'laod-rated' in (products() | pluck(it.tags) | first)\">{t('not_found.title')}</h1>",
    'never',
  ),
  plant('not-found/default', 'path: visit.path', 'paht: visit.path', 'phrase-value'),
  plant(
    'pieces/listing',
    '<takes name="nothing"',
    '<takes name="unasked" type="text">\n<takes name="nothing"',
    'unused-input',
  ),
  plant('pieces/pager', 'aria-label="{t(\'pager.label\')}"', 'aria-label="{t(\'pager.label)}"', 'expression'),
  plant('article/default', '| drop(it == article)', '| drop(it == artcile)', 'name', true),
  plant('cart/default', 'do:each="line in cart.lines"', 'do:each="line in cart.liens"', 'field', true),
  // What readers need.
  plant('pieces/row/hero', ' alt="" width="520"', ' width="520"', 'alt'),
  plant(
    'pieces/picture',
    '<img do:otherwise src="{asset(\'img/no-picture.svg\')}" alt=""',
    '<img do:otherwise src="{asset(\'img/no-picture.svg\')}"',
    'alt',
  ),
  plant('layouts/shop', '<label for="menu-open" class="menu-button">', '<label class="menu-button">', 'label'),
  plant('pieces/gallery', 'id="picture-{at.number}"', 'id="picture"', 'duplicate-id'),
  plant('pieces/order', '<input id="quantity"', '<i id="quantity"></i><input id="quantity"', 'duplicate-id'),
  plant('articles/default', '<h1 do:mark="title">', '<p>News of the quay</p><h1 do:mark="title">', 'written-text'),
  plant('pieces/choice', '<p class="choice-name"', '<p title="Pick one" class="choice-name"', 'written-text'),
  plant('error/default', '<h1', '<a href="/content/delivery">{shop.name}</a><h1', 'link-prefix'),
  plant('pieces/tags', '<a href="{tag.url}"', '<a href="{listing_url(tag: \'laod-rated\')}"', 'named'),
  plant(
    'pieces/member-choices',
    '<label for="member-{member.slug}">',
    '<label for="member-{member.slug}" do:when="member.type == \'shackel\'">',
    'never',
  ),
  plant('pieces/tab', '<label for="tab-{id}">', '<label for="tab-{id}" style="colr: red">', 'css-property'),
  // Style sheets.
  plant(
    'assets/css/shop.css',
    '.price strong { font-weight: 650; }',
    '.price strong { font-weihgt: 650; }',
    'css-property',
    true,
  ),
  plant('assets/css/shop.css', '.gallery { min-width: 0; }', '.gallery { min-width: 2; }', 'css-value'),
  plant(
    'assets/css/shop.css',
    '.slides::-webkit-scrollbar { display: none; }',
    '.slides::-webkit-scrollbar { display: nonne; }',
    'css-value',
    true,
  ),
  plant(
    'assets/css/shop.css',
    '.price s { font-size: .85em; color: var(--soft); }',
    '.price s { font-size: .85em; color: var(--sfot); }',
    'css-name',
    true,
  ),
  plant('assets/css/shop.css', '.film iframe { width: 100%;', '.film iframe { width: calc(100%-2px);', 'css-value'),
  plant(
    'assets/css/shop.css',
    '.teaser p { margin: 0; color',
    '.teaser p { font-family: Harbour, serif; margin: 0; color',
    'css-font',
  ),
  plant(
    'assets/css/shop.css',
    '.slide .film { width: 100%; }',
    '.slide .film { width: 100%; background: url(../img/hreo.svg); }',
    'asset',
  ),
  { ...plant('assets/css/own.css', 'links it last. */', 'links it last. */\n.foot { color: red', 'css'), below: 1 },
  // Files of data.
  plant(
    'look.json',
    '"group": "Type and sizes", "value": 1160',
    '"group": "Type and sizes", "value": 2160',
    'json-value',
  ),
  plant('look.json', '"label": "Shaded ground"', '"lable": "Shaded ground"', 'json-key', true),
  plant('look.json', '"tag": { "columns": 3 }', '"tag": { "columns": 3, "split_by": "colr" }', 'json-value'),
  plant('look.json', '"brand": { "columns": 3 }', '"brand": { "colums": 3 }', 'json-key', true),
  plant('shelves.json', '"piece": "pieces/row/categories"', '"piece": "pieces/row/categoreis"', 'shelf', true),
  plant('shelves.json', '"heading": { "phrase": "home.new" }, "sort"', '"headnig": "New", "sort"', 'shelf'),
  plant(
    'shelves.json',
    '"id": "articles", "shelf": "home"',
    '"id": "articles", "subject": "content/delivry", "shelf": "home"',
    'shelf',
  ),
  plant('about.json', '"kind": "base"', '"kind": "bases"', 'json-value', true),
  plant('about.json', '"hosts": []', '"host": []', 'json-key', true),
  plant('words/fr.json', '"value_out": "{name}, épuisé"', '"value_out": "{nom}, épuisé"', 'json-value'),
  plant(
    'words/fr.json',
    '"find": "Chercher dans le magasin",\n    "find_button"',
    '"find": 3,\n    "find_button"',
    'json-value',
  ),
];

describe('a copy of the base theme with seventy mistakes planted in it', () => {
  const folder = mkdtempSync(join(tmpdir(), 'last-planted-'));
  const catalogue = join(folder, 'catalogue.json');
  let problems: Problem[] = [];
  const check = (theme: string): { status: number; problems: Problem[] } => {
    let out = '';
    const status = checkCommand(
      [theme],
      { catalogue, json: true },
      (text) => (out += text),
      () => {},
    );
    return { status, problems: (JSON.parse(out) as { problems: Problem[] }).problems };
  };

  beforeAll(async () => {
    await exportTo(demoShop(), catalogue, 'json');
    cpSync('themes/quay-1.0', join(folder, 'theme'), { recursive: true });
    for (const { file, good, bad } of planted) {
      const path = join(folder, 'theme', file);
      const text = readFileSync(path, 'utf8');
      expect([file, good, text.split(good).length]).toEqual([file, good, 2]);
      writeFileSync(
        path,
        text.replace(good, () => bad),
      );
    }
    problems = check(join(folder, 'theme')).problems;
  });

  it('the theme itself has nothing wrong', () => expect(check('themes/quay-1.0')).toEqual({ status: 0, problems: [] }));

  it('there are at least sixty, all different', () => {
    expect(planted.length).toBeGreaterThanOrEqual(60);
    expect(new Set(planted.map(({ bad }) => bad)).size).toBe(planted.length);
  });

  for (const one of planted) {
    const { file, good, bad, code, fixes, below = 0 } = one;
    it(`${code}: ${bad}`, () => {
      const text = readFileSync(join(folder, 'theme', file), 'utf8');
      const at = text.indexOf(bad);
      let same = 0;
      while (good[same] === bad[same] && same < bad.length) same++;
      const line = text.slice(0, at + same).split('\n').length + below;
      const found = problems.filter(
        (problem) => problem.file === file && problem.line === line && problem.code === code,
      );
      const near = problems
        .filter((problem) => problem.file === file)
        .map((problem) => `${problem.line} ${problem.code}`);
      expect([found.length > 0, line, near]).toEqual([true, line, near]);
      if (!fixes) return;
      const fixed = found.map((problem) => problem.fix && applyFix(text, problem.fix));
      expect(fixed).toContain(text.replace(bad, () => good));
    });
  }

  it('says nothing of lines where nothing was planted', () => {
    const lines = new Set(
      planted.flatMap(({ file, bad }) => {
        const text = readFileSync(join(folder, 'theme', file), 'utf8');
        const from = text.slice(0, text.indexOf(bad)).split('\n').length;
        return Array.from({ length: bad.split('\n').length + 1 }, (_, at) => `${file}:${from + at}`);
      }),
    );
    // That nothing draws pieces/choice any more follows from the draw that is misspelt.
    const elsewhere = problems.filter(
      ({ file, line, code }) => !lines.has(`${file}:${line}`) && code !== 'unused-piece',
    );
    expect(elsewhere.map(({ file, line, code, message }) => `${file}:${line} ${code} ${message}`)).toEqual([]);
  });
});

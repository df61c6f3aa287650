import type { UnsavedText } from '@/server/shop/ask';
import { beforeEach, describe, expect, it } from 'vitest';
import type { z } from 'zod';
import type { changeRequest, ReachAnswer, reachRequest, ViewAnswer, viewRequest } from '@/contract/bench';
import { linesOf, sentenceOf, type LineFacts } from '@/core/inspect/why';
import { marksOf, placeOfMark, spotsAt, templatesTo } from '@/core/inspect/trail';
import { withoutMarks } from '@/core/language';
import { draftOf } from '@/server/shop/states';
import { pageOf } from '@/server/storefront/page';
import { makeAlternate } from '@/server/alternates/alternates';
import { changeAt, reachAt, viewPage } from './preview';
import type { Shop } from '@/server/shop/shop';
import { demoShop } from '@/server/testing/demo-shop';

let shop: Shop;
beforeEach(() => {
  shop = demoShop();
});

const origin = 'http://localhost:4171';
const rope = '/product/tarred-hemp-rope';
const draft = () => draftOf(shop, 'spring');
const base = (path: string) => shop.theme(draft()).theme.file(path)?.text ?? '';
const unsavedOf = (path: string, text: string): UnsavedText[] => [{ path, text }];

function viewed(address: string, more: Partial<z.output<typeof viewRequest>> = {}): ViewAnswer {
  return viewPage(shop, draft(), {
    view: null,
    address,
    try: null,
    origin,
    unsaved: [],
    shown: null,
    open: null,
    ...more,
  });
}

function reached(
  address: string,
  file: string,
  part: string,
  more: Partial<z.output<typeof reachRequest>> = {},
): ReachAnswer {
  return reachAt(shop, draft(), {
    view: null,
    address,
    try: null,
    origin,
    unsaved: [],
    file,
    layer: 'Quay',
    offset: base(file).indexOf(part) + 1,
    frame: null,
    open: [],
    search: '',
    ...more,
  });
}

const rowOf = ({ rows }: ReachAnswer, path: string) => rows.find((one) => one.path === path);
const changed = (asked: Partial<z.output<typeof changeRequest>>) =>
  changeAt(shop, draft(), { unsaved: [], ...asked } as z.output<typeof changeRequest>);

describe('a page with what is typed', () => {
  it('is the live page byte for byte once its marks are out', () => {
    const answer = viewed(rope);
    const plain = pageOf(shop, draft(), { path: rope, query: {}, origin }).html;
    expect(withoutMarks(answer.html ?? '')).toBe(plain);
  });

  it('is made with a text that is not saved, and nothing is written', () => {
    const text = base('pieces/stock.html').replace(
      'data-part="stock" do:otherwise',
      'data-part="stock" do:otherwise id="typed"',
    );
    const answer = viewed(rope, { unsaved: unsavedOf('pieces/stock.html', text) });
    expect(answer.html).toContain('id="typed"');
    expect(viewed(rope).html).not.toContain('id="typed"');
    expect(shop.themes.ownHash(draft().id, 'pieces/stock.html')).toBeNull();
  });

  it('is not sent again when the frame shows it already', () => {
    const { shown } = viewed(rope);
    expect(viewed(rope, { shown }).html).toBeNull();
  });

  it('keeps the last good page while a template cannot be read, and says where', () => {
    const answer = viewed(rope, {
      shown: 'x',
      unsaved: unsavedOf('pieces/stock.html', '<p class="stock">{variant.stock</p>'),
    });
    expect(answer.html).toBeNull();
    expect(answer.broken).toMatchObject({ file: 'pieces/stock.html', severity: 'error', line: 1 });
    const settings = viewed(rope, { unsaved: unsavedOf('look.json', '{ "accent": ') });
    expect(settings.broken).toBeNull();
    expect(settings.html).not.toBeNull();
  });

  it('goes on where what cannot be read takes no part in it: a default where an alternate serves', () => {
    const wrong = '<p>{product.name</p>';
    for (const file of ['cart/default.html', 'pieces/cart-line.html']) {
      const answer = viewed(rope, { shown: 'x', unsaved: unsavedOf(file, wrong) });
      expect([answer.broken, answer.html === null]).toEqual([null, false]);
    }
    const made = { name: 'own', label: 'Own', note: '', types: [], kind: 'product', from: 'default' } as const;
    makeAlternate(shop, draft(), { ...made, types: [] });
    makeAlternate(shop, draft(), { ...made, name: 'above', label: 'Above', types: [], as: 'changes' });
    const onDefault = { shown: 'x', unsaved: unsavedOf('product/default.html', wrong) };
    expect(viewed(rope, onDefault).broken?.file).toBe('product/default.html');
    expect(viewed(rope, { ...onDefault, try: 'own' }).broken).toBeNull();
    expect(viewed(rope, { ...onDefault, try: 'above' }).broken?.file).toBe('product/default.html');
  });

  it('asks for an unsaved style sheet by an address that gives just that', () => {
    const css = `${base('assets/css/shop.css')}\n.typed{color:red}`;
    const { html } = viewed(rope, { unsaved: unsavedOf('assets/css/shop.css', css) });
    const version = /shop\.css\?v=([0-9a-f]+)/.exec(html ?? '')?.[1] ?? '';
    expect(shop.unsavedBytes(version)?.bytes.toString()).toBe(css);
  });
});

describe('pointing', () => {
  it('leads from a mark to template, line and layer, and back to every place where it was rendered', () => {
    const { table, html } = viewed('/category/rope-and-cord');
    const mark =
      /<h3 data-last-at="(\d+\.\d+)"><a data-last-at="[\d.]+" href="[^"]*\/product/.exec(html ?? '')?.[1] ?? '';
    const place = placeOfMark(table, mark);
    expect(place).toMatchObject({ kind: 'element', text: 'h3', mark: 'name' });
    expect(table.sources[place?.source ?? -1]).toEqual({ file: 'pieces/tile.html', layer: 'Quay' });
    const [spot] = spotsAt(table, 'pieces/tile.html', 'Quay', place?.from ?? -1);
    const marks = new Set(spot && marksOf(table, spot));
    const onPage = [
      ...(html ?? '').matchAll(/<h3 data-last-at="(\d+\.\d+)"><a data-last-at="[\d.]+" href="[^"]*\/product/g),
    ].map(([, one]) => one as string);
    expect(onPage.length).toBeGreaterThan(8);
    expect(onPage.every((one) => marks.has(one))).toBe(true);
  });

  it('gives the trail from the layout down to the piece', () => {
    const { table } = viewed(rope);
    const [spot] = spotsAt(table, 'pieces/stock.html', 'Quay', base('pieces/stock.html').indexOf('do:otherwise'));
    const [mark] = spot ? marksOf(table, spot) : [];
    const trail = templatesTo(table, Number(mark?.split('.')[0]));
    expect(trail.map(({ template }) => template)).toEqual(['layouts/shop', 'product/default', 'pieces/stock']);
  });
});

describe('why', () => {
  const facts = (address: string, file: string): Map<number, LineFacts> => linesOf(viewed(address).table, file, 'Quay');

  it('tells how each condition came out and what decided', () => {
    const [sold, few, rest] = [2, 3, 4].map((line) => facts(rope, 'pieces/stock.html').get(line)?.outcomes[0]);
    expect([sold?.held, sold?.not, few?.not, rest?.held]).toEqual([0, 1, 1, 1]);
    expect(few?.whyNot && sentenceOf(few.whyNot, null)).toBe('variant.stock < 6: variant.stock is 120');
    expect(rest?.whyHeld && sentenceOf(rest.whyHeld, null)).toBe('Nothing before it in its chain was rendered');
  });

  it('says which condition hides what an amendment put into a part that is not shown', () => {
    const text =
      '<amend>\n  <append mark="members">\n    <p class="own">More of <b>them</b></p>\n  </append>\n  <after mark="name"><p>Here</p></after>\n</amend>\n';
    const { table, shopLayer } = viewed(rope, { unsaved: [{ path: 'product/default.html', text }] });
    const lines = linesOf(table, 'product/default.html', shopLayer);
    expect(lines.get(3)?.hidden).toMatchObject({
      ...{ file: 'product/default.html', layer: 'Quay' },
      line:
        base('product/default.html')
          .split('\n')
          .findIndex((one) => one.includes('do:mark="members"')) + 1,
      why: { said: 'an empty list', held: false },
    });
    expect(lines.get(5)?.hidden).toBeNull();
  });

  it('says how often the deciding field has a value over the catalogue', () => {
    const text = '<takes name="product" type="Product">\n<p do:when="product.was_price">{product.was_price}</p>\n';
    const unsaved = [
      { path: 'pieces/was.html', text },
      { path: 'product/default.html', text: '<draw name="pieces/was" product="{product}"/>' },
    ];
    const outcome = linesOf(viewed(rope, { unsaved }).table, 'pieces/was.html', null).get(2)?.outcomes[0];
    expect(outcome?.whyNot?.part).toMatchObject({ object: 'Product', path: ['was_price'] });
    const counted = shop.facts().emptiness('Product', ['was_price']);
    expect(outcome?.whyNot && sentenceOf(outcome.whyNot, counted)).toMatch(
      /^product\.was_price is empty on this product; it has a value on \d+ of 61 products$/,
    );
  });
});

describe('in reach', () => {
  it('lists every name at a place with its type and what it is on this page', () => {
    const reach = reached(rope, 'product/default.html', '<h1', { open: ['product', 'product.fields'] });
    expect(rowOf(reach, 'product')).toMatchObject({
      type: 'Product',
      shown: { text: 'Tarred hemp rope, three-strand' },
    });
    expect(rowOf(reach, 'product.price')).toMatchObject({ type: 'Money', shown: { kind: 'money', text: '£4.20' } });
    expect(rowOf(reach, 'product.fields.lead_time')).toMatchObject({
      type: 'Number',
      unit: 'days',
      shown: { text: '2' },
    });
    expect(rowOf(reach, 'product.fields.lead_time')?.counted?.total).toBe(61);
    expect(rowOf(reach, 'product.image')?.shown?.picture).toMatch(/^\/media\//);
    expect(rowOf(reach, 'shop')).toBeDefined();
  });

  it('knows the item of a loop, and which of its turns is meant', () => {
    const file = 'pieces/tile.html';
    const { table, html } = viewed('/category/rope-and-cord');
    const names = [
      ...(html ?? '').matchAll(/<h3 data-last-at="(\d+)\.\d+"><a [^>]*\/product[^>]*><!--last [\d.]+-->([^<]*)/g),
    ].slice(0, 3);
    expect(names).toHaveLength(3);
    for (const [, frame, name] of names) {
      const reach = reached('/category/rope-and-cord', file, '<h3', { frame: Number(frame), open: ['product'] });
      expect(reach.times).toBeGreaterThan(8);
      expect(name?.startsWith(rowOf(reach, 'product.name')?.shown?.text ?? '?')).toBe(true);
    }
    expect(table.templates.some(({ name }) => name === 'pieces/tile')).toBe(true);
  });

  it('knows where in the catalogue values stand, and the one that is printed', () => {
    const open = ['product', 'product.fields', 'product.variants', 'product.variants[1]', 'product.attributes'];
    const reach = reached(rope, 'product/default.html', '<h1', {
      open: [...open, 'product.attributes[0]', 'product.brand', 'shop', 'product.category'],
    });
    const product = { kind: 'product', slug: 'tarred-hemp-rope' };
    const sku = /./;
    const places: [path: string, place: object | null][] = [
      ['product.name', { ...product, path: ['name'] }],
      ['product.fields.lead_time', { ...product, path: ['fields', 'lead_time'] }],
      ['product.variants[1].stock', { ...product, path: ['variants', expect.stringMatching(sku), 'stock'] }],
      ['product.attributes[0].value', { ...product, path: ['attributes', expect.any(String), 'value'] }],
      ['product.brand.name', { kind: 'brand', slug: expect.stringMatching(sku) as string, path: ['name'] }],
      ['product.category.summary', { kind: 'category', slug: expect.stringMatching(sku) as string, path: ['summary'] }],
      ['shop.name', { kind: 'shop', slug: 'shop', path: ['name'] }],
      // What is worked out of others is changed there.
      ['product.price', null],
      ['product.url', null],
      ['product.fields', null],
      ['shop.currency', null],
    ];
    for (const [path, place] of places) expect([path, rowOf(reach, path)?.record]).toEqual([path, place]);
    expect(reach.printed).toEqual({ path: 'product.name', record: { ...product, path: ['name'] } });
    expect(reached(rope, 'product/default.html', '<draw').printed).toBeNull();
  });

  it('finds the path that holds a text', () => {
    const { rows } = reached(rope, 'product/default.html', '<h1', { search: 'Stockholm-tarred' });
    expect(rows[0]?.path).toBe('product.summary');
  });

  it('lists what the page has and the piece does not see, and hands it down', () => {
    const reach = reached(rope, 'pieces/stock.html', '<p');
    expect(reach.rows.map(({ path }) => path)).toContain('variant');
    const product = reach.out.find(({ name }) => name === 'product');
    expect(product).toMatchObject({ type: 'Product', from: 'product/default' });
    const from = base('product/default.html').indexOf('<draw name="pieces/stock"');
    const { changes } = changed({
      target: { file: 'pieces/stock.html', layer: 'Quay', from: 0 },
      action: {
        kind: 'hand-down',
        name: 'product',
        from: 'product/default',
        way: [{ file: 'product/default.html', layer: 'Quay', from }],
      },
    });
    const byPath = new Map(changes.map((one) => [one.path, one]));
    expect(byPath.get('product/default.html')).toMatchObject({ way: 'mark' });
    expect(byPath.get('pieces/stock.html')?.text).toContain('<takes name="product" type="Product">');
    // The shop gets no copy of the piece: updates of it go on flowing in.
    expect(byPath.get('pieces/stock.html')?.text).toMatch(/^<amend>/);
    const text = (byPath.get('pieces/stock.html')?.text ?? '').replace(
      '</amend>',
      '  <prepend at="p:3">{product.name} </prepend>\n</amend>',
    );
    const unsaved = [
      { path: 'product/default.html', text: byPath.get('product/default.html')?.text ?? '' },
      { path: 'pieces/stock.html', text },
    ];
    expect(withoutMarks(viewed(rope, { unsaved }).html ?? '')).toContain(
      '<p class="stock" data-part="stock">Tarred hemp rope',
    );
  });
});

import { beforeEach, describe, expect, it } from 'vitest';
import type { Rule, Target } from '@/core/alternates/alternates';
import type { Condition } from '@/core/alternates/condition';
import type { AlternatesEdit } from '@/core/alternates/edit';
import { retireTag } from '@/server/goods/retire-tag';
import type { StateRow } from '@/store/themes';
import {
  alternatesOf,
  editAlternates,
  factsOfKind,
  makeAlternate,
  makeFile,
  renameAlternate,
  retireAlternate,
} from './alternates';
import { Covers } from './coverage';
import { explainAt } from './explain';
import { openFile, saveFile } from '@/server/drafts/files';
import { draftOf } from '@/server/shop/states';
import { undoChange } from '@/server/drafts/history';
import { renameFile } from '@/server/drafts/rename';
import { pageOf, pictureOf } from '@/server/storefront/page';
import { changesOf, publish } from '@/server/drafts/release';
import type { Shop } from '@/server/shop/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { refusal, reported } from '@/server/testing/met';

/** Longer than most files: every service of alternates is tried on one shop, in order. */

const making = { at: '2026-11-28T10:00:00.000Z', by: 'Robin' };

let shop: Shop;
const draft = (): StateRow => draftOf(shop, 'spring');
const live = (): StateRow => shop.themes.live() as StateRow;
const hashOf = (path: string) => shop.themes.ownHash(draft().id, path) ?? '';
const html = (state: StateRow, path: string, more: { on?: string; query?: Record<string, string> } = {}) =>
  pageOf(shop, state, { path, query: {}, ...more }).html;
beforeEach(() => {
  shop = demoShop();
});

const made = {
  kind: 'product',
  name: 'load-rated',
  label: 'Load-rated',
  note: '',
  types: ['shackle'],
  from: 'default',
} as const;
const shackle = { kind: 'product', slug: 'bronze-bow-shackle' } as const;

describe('alternates', () => {
  beforeEach(() => makeAlternate(shop, draft(), { ...made, types: [...made.types] }));
  const pin = (alternate: string | null, ...subjects: { kind: 'product' | 'category' | 'listing'; slug: string }[]) =>
    editAlternates(shop, draft(), {
      do: 'pin',
      kind: subjects[0]?.kind ?? 'product',
      slugs: subjects.map(({ slug }) => slug),
      alternate,
    });
  const templates = () => alternatesOf(shop, draft()).targets.find((one) => one.key === 'product')?.templates ?? [];
  const product: Target = { kind: 'product' };
  const covers = () => new Covers(shop);
  /** How many get each template of a target. */
  const counts = (target: Target = product): Record<string, number> => {
    const line = [...covers().map(draft(), { target, on: null, by: 'category' })].find((one) => one.coverage);
    const found: Record<string, number> = {};
    for (const way of line?.coverage?.ways ?? [])
      if (way.count) found[way.template] = (found[way.template] ?? 0) + way.count;
    return found;
  };

  it('a rule on a search, as it is made, names whom it holds for', () => {
    const when: Condition = { fact: 'query', test: 'is', value: ['rope', 'anchor'] };
    const { rows } = covers().match(draft(), { target: { kind: 'listing' }, on: null, when, id: null });
    const names = rows.filter(({ view }) => view === 'grid').map(({ name, slug }) => [name, slug]);
    expect(names).toEqual([
      ['Search “anchor”', 'search'],
      ['Search “rope”', 'search'],
    ]);
  });
  it('what is typed into a rule on a search is not kept for ever', () => {
    const kept = covers();
    const searched = (word: string) => {
      const alternates = shop.theme(draft()).alternates;
      const when: Condition = { fact: 'query', test: 'is', value: [word] };
      const rule: Rule = { id: 'x', kind: 'listing', alternate: 'default', when, from: null, to: null, note: '' };
      return kept.askOf(shop.theme(draft()), { kind: 'listing' }, null, { ...alternates, rules: [rule] }).table;
    };
    const first = searched('rope');
    expect(searched('rope')).toBe(first);
    for (let typed = 1; typed <= 30; typed++) searched('a'.repeat(typed));
    expect(searched('rope')).not.toBe(first);
  });
  it('begin as a copy, in the shop’s layer, with nobody', () => {
    expect(openFile(shop, draft(), 'product/load-rated.html').text).toBe(
      openFile(shop, draft(), 'product/default.html').text,
    );
    expect(templates().map(({ name }) => name)).toEqual(['default', 'load-rated']);
    expect(counts()).toEqual({ 'product/default': 61 });
  });

  it('serve who is pinned, and nobody else, in the draft before live', () => {
    saveFile(
      shop,
      draft(),
      'product/load-rated.html',
      '<h1>load {product.name}</h1>',
      openFile(shop, draft(), 'product/load-rated.html').hash,
    );
    pin('load-rated', shackle);
    expect(html(draft(), '/product/bronze-bow-shackle')).toBe('<h1>load Bronze bow shackle</h1>');
    expect(html(draft(), '/product/deck-oil')).toContain('<!DOCTYPE html>');
    expect(html(live(), '/product/bronze-bow-shackle')).toContain('<!DOCTYPE html>');
    expect(publish(shop, draft(), { note: 'try' }).number).toBe(2);
    expect(html(live(), '/product/bronze-bow-shackle')).toBe('<h1>load Bronze bow shackle</h1>');
    expect(html(live(), '/product/deck-oil')).toContain('<!DOCTYPE html>');
  });

  it('can be tried without being assigned', () => {
    const report = reported(shop, '/product/deck-oil?variant=x', 'load-rated');
    expect([report.template, report.because]).toEqual(['product/load-rated', 'tried']);
    expect(report.choices.map((one) => one.name)).toEqual(['default', 'load-rated']);
  });

  it('move with a new pin, and fall back without', () => {
    pin('load-rated', shackle);
    pin('load-rated', shackle, { kind: 'product', slug: 'deck-oil' });
    expect(counts()).toEqual({ 'product/default': 59, 'product/load-rated': 2 });
    pin(null, shackle);
    expect(counts()).toEqual({ 'product/default': 60, 'product/load-rated': 1 });
  });

  it('are pinned to categories and listings too', () => {
    for (const kind of ['category', 'listing'] as const) makeAlternate(shop, draft(), { ...made, types: [], kind });
    pin('load-rated', { kind: 'category', slug: 'shackles' });
    pin('load-rated', { kind: 'listing', slug: 'tag/load-rated' });
    const of = (address: string) => reported(shop, address).template;
    expect(['/category/shackles', '/category/cleats', '/listing/tag/load-rated', '/listing/tag/gift'].map(of)).toEqual([
      'category/load-rated',
      'category/default',
      'listing/load-rated',
      'listing/default',
    ]);
  });

  it('say when a pinned page is gone', () => {
    pin('load-rated', shackle);
    shop.sql.run('DELETE FROM product WHERE slug = ?', shackle.slug);
    expect(
      alternatesOf(shop, draft()).targets[0]?.pins.concat(alternatesOf(shop, draft()).targets[1]?.pins ?? [])[0]?.gone,
    ).toBe(true);
    shop.sql.run('UPDATE catalogue_state SET revision = revision + 1, whole = revision + 1');
    expect(counts()).toEqual({ 'product/default': 60 });
  });

  it('list pages that differ by pieces of their own, beside the pins', () => {
    const on = (subject: string, piece: string, more = {}) => ({
      shelf: 'category-top',
      piece,
      subject,
      inputs: {},
      ...more,
    });
    const placements = [
      on('category/lamps', 'pieces/row/banner'),
      on('category/lamps', 'pieces/notice', { from: '2030-01-01' }),
      on('category/gone', 'pieces/notice'),
      on('category/finishes', 'pieces/notice', { hidden: true }),
      on('product/deck-oil', 'pieces/notice'),
    ];
    saveFile(shop, draft(), 'shelves.json', JSON.stringify({ placements }), hashOf('shelves.json') || null);
    const arranged = (key: string) => alternatesOf(shop, draft()).targets.find((one) => one.key === key)?.arranged;
    expect(arranged('category')).toEqual([
      { slug: 'lamps', name: 'Lamps', pieces: ['Banner', 'Notice'], gone: false },
      { slug: 'gone', name: 'gone', pieces: ['Notice'], gone: true },
    ]);
    expect(arranged('product')).toMatchObject([{ slug: 'deck-oil', name: 'Deck oil' }]);
    expect(arranged('content')).toEqual([]);
  });

  const refused: [name: string, work: () => unknown, message: RegExp][] = [
    [
      'a name that is taken',
      () => makeAlternate(shop, draft(), { ...made, types: [], label: 'Other' }),
      /“product\/load-rated” is taken by “Load-rated”/,
    ],
    [
      'a label that is taken',
      () => makeAlternate(shop, draft(), { ...made, types: [], name: 'other' }),
      /label “Load-rated” is taken/,
    ],
    [
      'the name default',
      () => makeAlternate(shop, draft(), { ...made, types: [], name: 'default' }),
      /choose another name/,
    ],
    [
      'a template that is not there to start from',
      () => makeAlternate(shop, draft(), { ...made, types: [], name: 'x', label: 'x', from: 'gone' }),
      /“product\/gone” to start from/,
    ],
    [
      'a pin to a slug that is gone',
      () => pin('load-rated', { kind: 'product', slug: 'gone' }),
      /no product “gone” any more/,
    ],
    ['a pin to a template that is not there', () => pin('gone', shackle), /no template “product\/gone”/],
  ];
  for (const [name, work, message] of refused)
    it(`refuse ${name}`, () => expect(refusal(work).message).toMatch(message));
});

/** Alternates of several targets with rules and pins, by the services that the workbench calls. */
describe('assignments', () => {
  const product: Target = { kind: 'product' };
  const tile: Target = { kind: 'product', piece: 'pieces/tile' };
  const make = (target: Target, name: string, text: string, more: { types?: string[] } = {}) => {
    makeAlternate(shop, draft(), { ...target, name, label: name, note: '', types: [], from: 'default', ...more });
    const path = `${target.piece ?? target.kind}/${name}.html`;
    saveFile(shop, draft(), path, text, openFile(shop, draft(), path).hash);
  };
  const edit = (one: AlternatesEdit) => editAlternates(shop, draft(), one);
  const rule = (id: string, alternate: string, when: Condition, more: Partial<Rule> = {}) =>
    edit({
      do: 'put-rule',
      was: null,
      rule: { id, kind: 'product', alternate, when, from: null, to: null, note: '', ...more },
    });
  const is = (fact: string, ...value: string[]): Condition => ({ fact, test: 'is', value });
  const problems = () => new Covers(shop).problems(draft(), null);
  const codes = () => problems().map(({ code }) => code);
  const applyFix = (title: RegExp) => {
    for (const { fixes } of problems())
      for (const one of fixes) if (title.test(one.title) && 'edit' in one) return edit(one.edit);
    throw new Error(`no fix ${title}: ${JSON.stringify(problems().map(({ fixes }) => fixes.map((one) => one.title)))}`);
  };
  beforeEach(() => {
    make(product, 'rated', '<h1>rated {product.name}</h1>');
    make(product, 'cut', '<h1>cut {product.name}</h1>', { types: ['rope', 'cord'] });
  });

  it('by a rule serve the draft, then live', () => {
    rule('a', 'rated', is('tag', 'load-rated'));
    expect(html(draft(), '/product/bronze-bow-shackle')).toBe('<h1>rated Bronze bow shackle</h1>');
    expect(html(live(), '/product/bronze-bow-shackle')).toContain('<!DOCTYPE html>');
    publish(shop, draft(), { note: '' });
    expect(html(live(), '/product/bronze-bow-shackle')).toBe('<h1>rated Bronze bow shackle</h1>');
  });

  it('do not ask what another language says otherwise', () => {
    rule('a', 'rated', { fact: 'field', name: 'material', test: 'is', value: ['Hemp'] });
    expect(html(draft(), '/product/tarred-hemp-rope')).toMatch(/^<h1>rated/);
    expect(html(draft(), '/fr/product/tarred-hemp-rope')).toMatch(/^<h1>rated/);
  });

  it('have their days: the draft can be seen as of one', () => {
    rule('a', 'rated', { all: [] }, { from: '2030-12-01', to: '2030-12-24' });
    const seen = (on: string) => html(draft(), '/product/deck-oil', { on }).startsWith('<h1>rated');
    expect(['2030-11-30', '2030-12-01', '2030-12-24', '2030-12-25'].map(seen)).toEqual([false, true, true, false]);
    expect(codes()).not.toContain('rule-shadowed');
  });

  it('of a piece go by the subject that it is given; drawing what it stands for is not a circle', () => {
    make(
      tile,
      'book',
      '<takes name="product" type="Product" required><takes name="tile" type="Tile"><takes name="eager" type="boolean"><b class="book-tile"><draw name="pieces/tile" product="{product}" tile="{tile}" eager="{eager}"/></b>',
    );
    rule('b', 'book', is('type', 'book'), tile);
    const listing = html(draft(), '/category/books');
    expect(listing.split('class="book-tile"').length - 1).toBeGreaterThan(0);
    expect(html(draft(), '/category/lamps')).not.toContain('book-tile');
    expect(html(draft(), '/category/lamps', {})).toContain('class="tile');
    expect(pageOf(shop, draft(), { path: '/category/lamps', query: {}, tried: 'pieces/tile/book' }).html).toContain(
      'book-tile',
    );
    expect(changesOf(shop, draft()).problems.filter((one) => one.file === 'pieces/tile/book.html')).toEqual([]);
  });

  it('of listings go by kind, tag, words and view', () => {
    const listing: Target = { kind: 'listing' };
    for (const name of ['tags', 'rows', 'ropes']) make(listing, name, `<h1>${name} {listing.title}</h1>`);
    const put = (id: string, when: Condition) => rule(id, id, when, { kind: 'listing' });
    put('ropes', { fact: 'query', test: 'contains', value: 'rope' });
    put('rows', is('view', 'list'));
    put('tags', is('kind', 'tag'));
    const of = (path: string, query: Record<string, string> = {}) =>
      /^<h1>\w+/.exec(html(draft(), path, { query }))?.[0] ?? 'default';
    expect([
      of('/listing/tag/gift'),
      of('/listing/tag/gift', { view: 'list' }),
      of('/listing/search', { q: 'hemp ROPE' }),
      of('/listing/search', { q: 'lamp' }),
      of('/listing/all'),
      of('/listing/brand/tidelamp'),
    ]).toEqual(['<h1>tags', '<h1>rows', '<h1>ropes', 'default', 'default', 'default']);
    // A search is counted by the words that rules ask for, each listing in both of its views.
    expect(codes().filter((code) => code === 'rule-nothing')).toEqual([]);
  });

  it('begin as a real copy, as changes or empty, also where the shop changes the default by an amendment', () => {
    const base = openFile(shop, draft(), 'product/default.html').text;
    saveFile(shop, draft(), 'product/default.html', '<amend><remove mark="name"></amend>', null);
    const texts = (['copy', 'changes', 'empty'] as const).map((as) => {
      makeAlternate(shop, draft(), { ...made, name: `a-${as}`, label: as, types: [], as });
      return openFile(shop, draft(), `product/a-${as}.html`).text;
    });
    expect(texts).toEqual([base, '<amend of="product/default">\n</amend>\n', '\n']);
    expect(alternatesOf(shop, draft()).targets.find(({ key }) => key === 'product')?.templates[0]).toMatchObject({
      name: 'default',
      amends: 'product/default',
      layer: { kind: 'shop' },
      whole: { kind: 'base', name: 'Quay' },
    });
  });

  it('may change the default instead of copying it', () => {
    makeAlternate(shop, draft(), {
      kind: 'product',
      name: 'noted',
      label: 'Noted',
      note: '',
      types: [],
      from: 'default',
      as: 'changes',
    });
    saveFile(
      shop,
      draft(),
      'product/noted.html',
      '<amend of="product/default">\n<before mark="name"><em>noted</em></before>\n</amend>',
      openFile(shop, draft(), 'product/noted.html').hash,
    );
    edit({ do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'noted' });
    expect(html(draft(), '/product/deck-oil')).toContain('<em>noted</em>');
    expect(html(draft(), '/product/anchor-lamp')).not.toContain('<em>noted</em>');
    expect(openFile(shop, draft(), 'product/noted.html').amends).toBe(true);
  });

  it('are explained: each pin and rule, held or not, with the value that decided', () => {
    rule('a', 'rated', { all: [is('tag', 'load-rated'), { fact: 'price', test: 'at-most', value: 100 }] });
    rule('b', 'cut', is('type', 'shackle'));
    const told = explainAt(shop, draft(), '/product/bronze-bow-shackle');
    const [page] = told.explanations;
    expect([page?.template, page?.because, page?.rule]).toEqual(['product/cut', 'rule', 'b']);
    expect(page?.steps.map(({ kind, held, decides }) => [kind, held, decides])).toEqual([
      ['pin', false, false],
      ['rule', false, false],
      ['rule', true, true],
      ['default', true, false],
    ]);
    expect(page?.steps[1]?.outcome?.parts.map(({ held, text, value }) => [held, text, value])).toEqual([
      [true, 'tag is load-rated', 'on deck, load-rated, mooring'],
      [false, 'price at most £1.00', '£9.90'],
    ]);
    // Only alternates that are meant for it are offered.
    expect(page?.choices.map(({ name }) => name)).toEqual(['default', 'rated']);
    expect(refusal(() => explainAt(shop, draft(), '/product/gone')).message).toContain(
      'There is no page “/product/gone”',
    );
  });

  it('in two tabs: an order that was changed meanwhile is not overwritten', () => {
    rule('a', 'rated', is('type', 'shackle'));
    rule('b', 'cut', is('type', 'rope'));
    const order = (names: string[], seen: string[]) => edit({ do: 'order', ...product, of: 'rules', names, seen });
    order(['b', 'a'], ['a', 'b']);
    const met = refusal(() => order(['b', 'a'], ['a', 'b']));
    expect([met.status, met.code, met.message]).toEqual([
      409,
      'changed',
      expect.stringContaining('The order was changed from elsewhere'),
    ]);
    expect(shop.theme(draft()).alternates.rules.map(({ id }) => id)).toEqual(['b', 'a']);
    expect(refusal(() => order(['b'], ['b', 'a'])).message).toContain('does not hold the same');
  });

  it('in two tabs: a rule that was changed or removed meanwhile is not overwritten', () => {
    rule('a', 'rated', is('type', 'shackle'));
    const was = shop.theme(draft()).alternates.rules[0] as Rule;
    edit({ do: 'put-rule', rule: { ...was, when: is('type', 'rope') }, was });
    expect(refusal(() => edit({ do: 'put-rule', rule: { ...was, note: 'mine' }, was })).code).toBe('changed');
    edit({ do: 'remove-rule', id: 'a' });
    expect(refusal(() => edit({ do: 'put-rule', rule: { ...was, note: 'mine' }, was })).code).toBe('gone');
  });

  it('follow a new name, fall back when it is retired, and come back', () => {
    rule('a', 'rated', is('tag', 'load-rated'));
    edit({ do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'rated' });
    renameAlternate(shop, draft(), { ...product, name: 'rated', to: 'heavy' });
    expect(html(draft(), '/product/deck-oil')).toBe('<h1>rated Deck oil</h1>');
    expect(shop.theme(draft()).theme.file('product/rated.html')).toBeNull();
    const fall = new Covers(shop).fall(draft(), { target: product, name: 'heavy' });
    const gifts = shop.sql.all(
      "SELECT 1 FROM product_tag pt JOIN tag t ON t.id = pt.tag_id WHERE t.slug = 'load-rated'",
    ).length;
    expect([fall.count, fall.to]).toEqual([gifts + 1, [{ template: 'product/default', count: gifts + 1 }]]);
    const { change } = retireAlternate(shop, draft(), { ...product, name: 'heavy' });
    expect(html(draft(), '/product/deck-oil')).toContain('<!DOCTYPE html>');
    expect(shop.theme(draft()).alternates).toMatchObject({ pins: [], rules: [] });
    undoChange(shop, draft(), change as number, '');
    expect(html(draft(), '/product/deck-oil')).toBe('<h1>rated Deck oil</h1>');
  });

  it('take along, when they are renamed, what amends and draws them', () => {
    rule('a', 'rated', is('tag', 'load-rated'));
    const text = (path: string) => shop.theme(draft()).theme.file(path)?.text;
    saveFile(
      shop,
      draft(),
      'product/rated.html',
      '<h1 do:mark="top">{product.name}</h1>',
      hashOf('product/rated.html'),
    );
    const above = '<amend of="product/rated">\n<after mark="top"><p>as well</p></after>\n</amend>\n';
    make(product, 'above', above);
    edit({ do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'above' });
    saveFile(shop, draft(), 'content/both.html', '<draw name="product/rated"/>', null);
    const retire = (name: string) => retireAlternate(shop, draft(), { ...product, name });
    expect(refusal(() => retire('rated')).message).toContain('“content/both.html” needs it in line 1');
    renameAlternate(shop, draft(), { ...product, name: 'rated', to: 'heavy' });
    expect(text('product/above.html')).toBe(above.replace('product/rated', 'product/heavy'));
    expect(text('content/both.html')).toBe('<draw name="product/heavy"/>');
    const cards = alternatesOf(shop, draft()).targets.find((one) => one.key === 'product')?.templates;
    expect(cards?.map((one) => `${one.name} ${one.amends ?? 'whole'}`)).toEqual([
      'default whole',
      'heavy whole',
      'cut whole',
      'above product/heavy',
    ]);
    expect(html(draft(), '/product/deck-oil')).toBe('<h1>Deck oil</h1><p>as well</p>');
    saveFile(shop, draft(), 'content/both.html', '<p>both</p>', hashOf('content/both.html'));
    expect(refusal(() => retire('heavy')).message).toContain('“product/above.html” needs it in line 1');
    retire('above');
    retire('heavy');
    expect(text('product/heavy.html')).toBeUndefined();
  });

  it('go on following the file of a layer below when they are renamed', () => {
    const below = [
      ...shop.themes
        .layers(draft().id)
        .map(({ id }) => id)
        .slice(0, -1),
    ];
    const path = 'product/brought.html';
    const brought = shop.themes.addLayer('add-on', 'Brought', '1', [
      [path, Buffer.from('<h1 do:mark="top">{product.name}</h1>')],
    ]);
    shop.themes.save(
      draft().id,
      [
        { path, bytes: Buffer.from('<amend><after mark="top"><p>ours</p></after></amend>') },
        {
          path: 'alternates.json',
          bytes: Buffer.from('{"alternates": [{"kind": "product", "name": "brought", "label": "Brought"}]}'),
        },
      ],
      { title: 'brought', at: '2026-11-26T00:00:00.000Z', by: '' },
      { below: [...below, brought] },
    );
    edit({ do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'brought' });
    const shown = html(draft(), '/product/deck-oil');
    expect(shown).toBe('<h1>Deck oil</h1><p>ours</p>');
    renameAlternate(shop, draft(), { ...product, name: 'brought', to: 'heavy' });
    expect(shop.theme(draft()).theme.file('product/heavy.html')?.text).toMatch(/^<amend of="product\/brought"><after/);
    expect(html(draft(), '/product/deck-oil')).toBe(shown);
  });

  it('keep their pins and rules when their file gets another name beside the others', () => {
    rule('a', 'rated', is('tag', 'load-rated'));
    const rename = (path: string, to: string) => renameFile(shop, draft(), { path, to, expected: hashOf(path) }, '');
    rename('product/rated.html', 'product/heavy.html');
    expect(shop.theme(draft()).alternates).toMatchObject({
      alternates: [{ name: 'heavy', label: 'rated' }, { name: 'cut' }],
      rules: [{ id: 'a', alternate: 'heavy' }],
    });
    // Elsewhere it is not an alternate of a product: the problem is told, with its fix.
    rename('product/heavy.html', 'content/heavy.html');
    expect(codes()).toContain('alternate-file');
  });

  it('are told with a version that changes just when something did', () => {
    const version = () => alternatesOf(shop, draft()).version;
    const first = version();
    expect(version()).toBe(first);
    edit({ do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'rated' });
    const pinned = version();
    expect(pinned).not.toBe(first);
    retireTag(shop, 'deck', making);
    expect(version()).not.toBe(pinned);
  });

  it('keep entries with mistakes as they stand, and report each by its line', () => {
    const text =
      '{\n  "alternates": [],\n  "pins": [],\n  "rules": [\n    {"kind": "product", "alternate": "rated", "when": {"fact": "tag", "test": "like"}}\n  ]\n}';
    const path = 'alternates.json';
    saveFile(shop, draft(), path, text, shop.themes.ownHash(draft().id, path));
    const told = () => changesOf(shop, draft()).problems.filter((one) => one.file === path);
    expect(told().map(({ line, message }) => [line, message.split(':')[0]])).toEqual([[5, 'rules[0].when.test']]);
    rule('a', 'rated', is('type', 'shackle'));
    expect(shop.theme(draft()).theme.file(path)?.text).toContain('"like"');
    expect(html(draft(), '/product/bronze-bow-shackle')).toMatch(/^<h1>rated/);
    expect(refusal(() => publish(shop, draft(), { note: '' })).message).toContain('alternates.json');
  });

  describe('problems', () => {
    const table: [name: string, code: string, wreck: () => unknown, fix: RegExp, after?: () => unknown][] = [
      [
        'a rule that holds for nothing',
        'rule-nothing',
        () => rule('a', 'rated', is('slug', 'no-such')),
        /^Remove the rule$/,
      ],
      [
        'a rule whose only tag is retired',
        'rule-nothing',
        () => (rule('a', 'rated', is('tag', 'mooring')), retireTag(shop, 'mooring', making)),
        /^Remove the rule: it asks for nothing but tag “mooring”/,
      ],
      [
        'a rule that names a retired tag beside others',
        'rule-value',
        () => (rule('a', 'rated', is('tag', 'mooring', 'deck')), retireTag(shop, 'mooring', making)),
        /^Take tag “mooring” out of the rule/,
      ],
      [
        'a rule on a field that is gone',
        'rule-field',
        () => rule('a', 'rated', { fact: 'field', name: 'weight', test: 'filled' }),
        /^Remove the rule/,
      ],
      [
        'a rule on a field of another type',
        'rule-field',
        () => (
          rule('a', 'rated', { fact: 'field', name: 'diameter', test: 'at-least', value: 3 }),
          shop.sql.run("UPDATE field_definition SET type = 'text' WHERE key = 'diameter'"),
          shop.sql.run('UPDATE catalogue_state SET revision = revision + 1, whole = revision + 1')
        ),
        /^Remove the rule/,
      ],
      [
        'a rule that is always shadowed',
        'rule-shadowed',
        () => (
          rule('a', 'rated', is('tag', 'load-rated')),
          rule('b', 'cut', { all: [is('tag', 'load-rated'), is('type', 'rope')] })
        ),
        /^Move it before “rated”/,
      ],
      [
        'a pin to what is gone',
        'pin-gone',
        () => (
          edit({ do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'rated' }),
          shop.sql.run("DELETE FROM product WHERE slug = 'deck-oil'"),
          shop.sql.run('UPDATE catalogue_state SET revision = revision + 1, whole = revision + 1')
        ),
        /^Remove the pin/,
      ],
      [
        'an alternate given to a type it is not meant for',
        'alternate-unmeant',
        () => edit({ do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'cut' }),
        /^It is meant for finish too/,
      ],
      [
        'the same by a rule',
        'alternate-unmeant',
        () => rule('a', 'cut', is('tag', 'load-rated')),
        /^Narrow the rule to rope, cord/,
      ],
      [
        'two pins for one subject',
        'pin-twice',
        () => {
          edit({ do: 'pin', kind: 'product', slugs: ['manila-rope'], alternate: 'cut' });
          const text = shop.theme(draft()).theme.file('alternates.json')?.text ?? '';
          const twice = JSON.parse(text) as { pins: unknown[] };
          twice.pins.push({ kind: 'product', slug: 'manila-rope', alternate: 'rated' });
          saveFile(
            shop,
            draft(),
            'alternates.json',
            JSON.stringify(twice, null, 2),
            shop.themes.ownHash(draft().id, 'alternates.json'),
          );
        },
        /^Keep “rated”/,
        () => expect(html(draft(), '/product/manila-rope')).toMatch(/^<h1>rated/),
      ],
    ];
    for (const [name, code, wreck, fix, after] of table) {
      it(`${name}: is reported, and fixed by its fix`, () => {
        wreck();
        expect(codes()).toContain(code);
        expect(problems().find((one) => one.code === code)?.line).toBeGreaterThan(1);
        applyFix(fix);
        expect(codes()).not.toContain(code);
        after?.();
      });
    }
    it('a file missing: made from default, or retired', () => {
      edit({ do: 'pin', kind: 'product', slugs: ['manila-rope'], alternate: 'cut' });
      shop.themes.save(
        draft().id,
        [{ path: 'product/cut.html', bytes: null, expected: shop.themes.ownHash(draft().id, 'product/cut.html') }],
        { title: '', at: '2026-01-01', by: '' },
      );
      const [one] = problems().filter(({ code }) => code === 'alternate-file');
      expect(one?.fixes.map(({ title }) => title)).toEqual(['Make the file from default', 'Retire “cut”']);
      expect(html(draft(), '/product/manila-rope')).toContain('<!DOCTYPE html>');
      makeFile(shop, draft(), { ...product, name: 'cut' });
      expect(codes()).not.toContain('alternate-file');
    });
    it('an alternate that nobody gets, unless a season will bring it', () => {
      expect(codes()).toEqual(['alternate-unused', 'alternate-unused']);
      rule('a', 'rated', { all: [] }, { from: '2099-01-01' });
      expect(codes()).toEqual(['alternate-unused']);
    });
  });

  it('only what changed is worked out again', () => {
    rule('a', 'rated', is('tag', 'mooring'));
    const covers = new Covers(shop);
    const look = () => {
      const steps = covers.coverage(draft(), product, null);
      for (;;) {
        const { done, value } = steps.next();
        if (done) return value;
      }
    };
    const first = look();
    const before = first.computed;
    const had = retireTag(shop, 'mooring', making)?.had;
    const again = look();
    expect(again).toBe(first);
    expect(again.computed - before).toBe(had);
    expect(again.rules[0]?.holds).toBe(0);
  });

  it('know what there is to ask: real tags, types, categories, brands, attributes and fields', () => {
    const { facts, currency } = factsOfKind(shop, 'product');
    const named = new Map(facts.map((one) => [one.name ?? one.fact, one]));
    expect(currency).toBe('GBP');
    expect(named.get('tag')?.options?.some(({ value }) => value === 'load-rated')).toBe(true);
    expect(named.get('breaking_load')).toMatchObject({ type: 'number', unit: 'kN' });
    expect(named.get('Lay')?.options?.map(({ value }) => value)).toContain('right-hand');
    expect(factsOfKind(shop, 'listing').facts.map(({ fact }) => fact)).toEqual([
      'kind',
      'tag',
      'brand',
      'query',
      'view',
    ]);
  });

  it('make a small picture of a piece, with the theme’s style', () => {
    const picture = pictureOf(shop, draft(), 'pieces/tile', '/product/deck-oil');
    expect(picture).toContain('rel="stylesheet"');
    expect(picture).toContain('Deck oil');
    expect(pictureOf(shop, draft(), 'pieces/tile', '/category/lamps')).toBeNull();
    expect(pictureOf(shop, draft(), 'pieces/menu', '/product/deck-oil')).toBeNull();
    expect(pictureOf(shop, draft(), 'pieces/tile', '//[')).toBeNull();
  });
});

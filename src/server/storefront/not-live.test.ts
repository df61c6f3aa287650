import { beforeEach, describe, expect, it } from 'vitest';
import type { Shop } from '@/server/shop';
import { saveRecords } from '@/server/records';
import { undoChange } from '@/server/goods';
import { demoShop } from '@/server/testing/demo-shop';
import type { RecordKind, StateRow } from '@/store';
import { sitemap } from './machines';
import { pageOf } from './page';

let shop: Shop;
let live: StateRow;
let draft: StateRow;
const making = { title: 'Not live yet', at: '2026-11-29T10:00:00.000Z', by: '' };

const hide = (kind: RecordKind, slug: string, on = false) =>
  saveRecords(shop, [{ kind, slug, before: { live: !on }, after: { live: on } }], making);
const page = (state: StateRow, path: string, query: Record<string, string> = {}) =>
  pageOf(shop, state, { path, query });
/** Whether a page of live, and of the draft, has a text. */
const has = (path: string, text: string, query: Record<string, string> = {}) =>
  [live, draft].map((state) => page(state, path, query).html.includes(text));

beforeEach(() => {
  shop = demoShop();
  live = shop.themes.live() as StateRow;
  draft = shop.themes.draft('spring') as StateRow;
});

describe('a product that is not live yet', () => {
  it('has a page in drafts only, and stands in no list of live', () => {
    const before = page(live, '/category/cord').html;
    expect(has('/product/shock-cord', '<h1')).toEqual([true, true]);
    const { id } = hide('product', 'shock-cord');
    expect([live, draft].map((state) => page(state, '/product/shock-cord').status)).toEqual([404, 200]);
    for (const path of ['/category/cord', '/listing/all', '/listing/tag/by-the-metre'])
      for (const state of [live, draft])
        expect([path, state.kind, shows(state, path)]).toEqual([path, state.kind, state.kind === 'draft']);
    expect(has('/listing/search', '/product/shock-cord"', { q: 'shock' })).toEqual([false, true]);
    expect(sitemap(shop, live, 'http://shop.test', null)).not.toContain('/product/shock-cord<');
    // It comes live, and goes back, like any other change.
    undoChange(shop, id ?? 0, making);
    expect(page(live, '/product/shock-cord').status).toBe(200);
    expect(page(live, '/category/cord').html).toBe(before);
  });

  const shows = (state: StateRow, path: string): boolean => {
    for (let number = 1; number < 12; number++) {
      const { html, status } = page(state, path, number > 1 ? { page: String(number) } : {});
      if (html.includes('/product/shock-cord')) return true;
      if (status !== 200) return false;
    }
    return false;
  };

  it('is in no set and related to none', () => {
    const source = shop.catalogue();
    const rows = shop.sql.all<{ of: string; slug: string }>(
      `SELECT p.slug AS of, r.slug FROM product_related x JOIN product p ON p.id = x.product_id JOIN product r ON r.id = x.related_id LIMIT 1`,
    );
    const [{ of, slug }] = rows as [{ of: string; slug: string }];
    expect(source.productBySlug(slug)).not.toBeNull();
    const link = new RegExp(`href="[^"]*/product/${slug}[?"]`);
    expect([live, draft].map((state) => link.test(page(state, `/product/${of}`).html))).toEqual([true, true]);
    hide('product', slug);
    expect([live, draft].map((state) => link.test(page(state, `/product/${of}`).html))).toEqual([false, true]);
  });
});

describe('what else is not live yet', () => {
  it('is a category with all below it, and its links in menus', () => {
    expect(has('/', '/category/natural-fibre-rope')).toEqual([true, true]);
    hide('category', 'rope-and-cord');
    for (const slug of ['rope-and-cord', 'natural-fibre-rope'])
      expect([live, draft].map((state) => page(state, `/category/${slug}`).status)).toEqual([404, 200]);
    // Products in it stay: they are in others too, and have pages of their own.
    expect(page(live, '/product/shock-cord').status).toBe(200);
    expect(has('/', 'href="/category/rope-and-cord"')).toEqual([false, true]);
    expect(has('/', 'href="/category/natural-fibre-rope"')).toEqual([false, true]);
    expect(has('/', 'href="/category/lamps"')).toEqual([true, true]);
  });
  it('is a content page and an article', () => {
    hide('content', 'delivery');
    expect([live, draft].map((state) => page(state, '/content/delivery').status)).toEqual([404, 200]);
    const { slug } = shop.sql.get<{ slug: string }>('SELECT slug FROM article ORDER BY added DESC LIMIT 1') as {
      slug: string;
    };
    hide('article', slug);
    expect(has('/article', `/article/${slug}"`)).toEqual([false, true]);
    hide('article', slug, true);
    expect(has('/article', `/article/${slug}"`)).toEqual([true, true]);
  });
});

import { describe, expect, it } from 'vitest';
import { withyQuay } from '../../../demo/catalogue';
import { Shop } from '@/server/shop/shop';
import { sitemap } from './machines';
import { pageOf } from './page';
import { seed } from '../seeding/seed';

const shop = new Shop(':memory:');
seed(shop, {
  ...{ catalogue: withyQuay, pictures: [], base: 'themes/quay-1.1', addOns: [], own: 'themes/withy-quay' },
  now: '2026-11-24T00:00:00.000Z',
});
const live = shop.themes.live();
if (!live) throw new Error('nothing is live');
const page = (path: string, query: Record<string, string> = {}) => pageOf(shop, live, { path, query });

const { products: goods = [] } = withyQuay;
/** Known from the catalogue's file, not from what lists it. */
const reduced = goods.filter(
  ({ live, variants }) => live !== false && (variants ?? []).some(({ price, wasPrice }) => (wasPrice ?? 0) > price),
);
const linked = (html: string) =>
  new Set([...html.matchAll(/<h3[^>]*>\s*<a href="\/product\/([a-z0-9-]+)/g)].map(([, slug]) => slug));

describe('the page of what is on offer', () => {
  it('lists what was dearer before, and nothing else', () => {
    expect(reduced.length).toBeGreaterThan(1);
    const found = new Set<string | undefined>();
    for (let at = 1; ; at++) {
      const { html, status } = page('/listing/offer', { page: String(at) });
      if (status !== 200) break;
      for (const one of linked(html)) found.add(one);
    }
    expect([...found].sort()).toEqual(reduced.map(({ slug }) => slug).sort());
  });
  it('has a title in each language', () => {
    expect(page('/listing/offer').html).toMatch(/<h1[^>]*>\s*On offer/);
    expect(page('/fr/listing/offer').html).toMatch(/<h1[^>]*>\s*En promotion/);
  });
  it('is ordered and filtered as others are', () => {
    const [first] = linked(page('/listing/offer', { sort: 'price' }).html);
    const [last] = linked(page('/listing/offer', { sort: 'price-down' }).html);
    expect(first).not.toBe(last);
    const { html } = page('/listing/offer', { stock: 'in' });
    expect(linked(html).size).toBeGreaterThan(0);
    expect([...linked(html)].every((slug) => reduced.some((one) => one.slug === slug))).toBe(true);
  });
  it('is in the sitemap while something is on offer', () => {
    expect(sitemap(shop, live, 'https://shop.example', null)).toContain('/listing/offer');
  });
  it('is empty, and not in the sitemap, where nothing is', () => {
    const plain = new Shop(':memory:');
    const products = goods.map((one) => ({
      ...one,
      variants: (one.variants ?? []).map((variant) => ({ ...variant, wasPrice: null })),
    }));
    seed(plain, {
      ...{ catalogue: { ...withyQuay, products }, pictures: [], base: 'themes/plain-1.0', addOns: [], own: null },
      now: '2026-11-24T00:00:00.000Z',
    });
    const state = plain.themes.live();
    if (!state) throw new Error('nothing is live');
    const { html, status } = pageOf(plain, state, { path: '/listing/offer', query: {} });
    expect([status, linked(html).size]).toEqual([200, 0]);
    expect(sitemap(plain, state, 'https://shop.example', null)).not.toContain('/listing/offer');
  });
});

import { describe, expect, it } from 'vitest';
import { browserTree, writtenTree } from '@/core/language/testing/trees';
import { listingSettings } from '@/core/theme';
import { seed } from '@/server/seeding/seed';
import { draftOf } from '@/server/shop/states';
import { Shop } from '@/server/shop/shop';
import { catalogueOf, shopKinds } from '@/server/testing/catalogues';
import { pageOf } from './page';

const themes = ['themes/quay-1.1', 'themes/plain-1.0'];
const now = '2026-11-24T00:00:00.000Z';

/** Of many pages of one kind, what the browser makes is looked at for one in so many; `LAST_WHOLE=1` has all of them looked at. */
const oneIn = process.env.LAST_WHOLE === '1' ? 1 : 50;

/** Addresses of every page of a shop, with listings in each order and on each page. */
function* addresses(shop: Shop, perPage: number): Generator<string> {
  yield* ['/', '/cart', '/article', '/listing/search?q=a', '/listing/search?q=', '/listing/all?sort=price&view=list'];
  const slugs = (table: string) => shop.sql.all<{ slug: string }>(`SELECT slug FROM ${table}`).map(({ slug }) => slug);
  for (const kind of ['product', 'category', 'content', 'article'])
    for (const slug of slugs(kind)) yield `/${kind}/${slug}`;
  for (const kind of ['tag', 'brand']) for (const slug of slugs(kind)) yield `/listing/${kind}/${slug}`;
  const products = slugs('product').length;
  for (let page = 1; page === 1 || (page - 1) * perPage < products; page++) yield `/listing/all?page=${page}`;
}

describe.each(themes)('%s serves any shop', (base) => {
  it.each(shopKinds.map((kind) => [kind.name, kind] as const))('%s', (_, kind) => {
    const shop = new Shop(':memory:');
    const catalogue = catalogueOf(kind);
    seed(shop, { catalogue, pictures: [], base, addOns: [], own: null, now });
    const draft = draftOf(shop, 'spring');
    const { theme } = shop.theme(draft);
    expect(theme.checkAll()).toEqual([]);
    const prefixes = catalogue.shop.locales.map((locale, at) => (at ? `/${locale}` : ''));
    const keys = [...theme.phraseKeys()].filter((key) => key.includes('.'));
    let count = 0;
    for (const prefix of prefixes)
      for (const address of addresses(shop, listingSettings(theme.look, 'all').page_size)) {
        const url = new URL(prefix + address, 'http://shop.invalid');
        const page = pageOf(shop, draft, { path: url.pathname, query: Object.fromEntries(url.searchParams) });
        expect([address, page.status, page.problems.map((one) => one.message)]).toEqual([address, 200, []]);
        if (count++ > 200 && count % oneIn) continue;
        expect([address, browserTree(page.html, true)]).toEqual([address, writtenTree(page.html)]);
        const texts = page.html.replace(/<(script|style)[^]*?<\/\1>/g, '').replace(/<[^>]*>/g, '\n');
        expect([address, keys.filter((key) => texts.includes(key))]).toEqual([address, []]);
        expect([address, page.html.match(/<h1[\s>]/g)?.length]).toEqual([address, 1]);
      }
    shop.sql.db.close();
  });
});

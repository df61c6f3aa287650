import { createServer, type Server as HttpServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import axe from 'axe-core';
import { expect, test } from '@playwright/test';
import { Addresses, setAddresses, setupFrom } from '../src/server/http';
import { seed } from '../src/server/seeding/seed';
import { Shop } from '../src/server/shop/shop';
import { siteListener } from '../src/server/storefront';
import { catalogueOf, shopKinds } from '../src/server/testing/catalogues';
import { sampleOf } from '../src/store/samples';

// A trace would keep every page of every shop.
test.use({ trace: 'off' });

let shop: Shop;
let server: HttpServer;
let origin = '';
test.beforeAll(async () => {
  server = createServer((request, response) => listener(request, response));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const addresses = new Addresses(setupFrom({}, { port: 4170, sitePort: port, draftPort: 4172 }));
  setAddresses(addresses);
  const listener = siteListener(() => shop, addresses);
  origin = `http://shop.localhost:${port}`;
});
test.afterAll(() => server.close());

/** A page of each template that shows goods, with its awkward subjects; of the first shop those of all others too. */
function pages(whole: boolean): string[] {
  const some = (kind: 'product' | 'category' | 'content' | 'article', size: number) =>
    sampleOf(shop.sql, kind, 0)
      .slice(0, size)
      .map((slug) => `/${kind}/${slug}`);
  const brands = shop.sql.all<{ slug: string }>('SELECT slug FROM brand LIMIT 1');
  return [
    ...['/', '/listing/all?view=list', ...brands.map(({ slug }) => `/listing/brand/${slug}`)],
    ...[...some('product', 3), ...some('category', 1), ...some('content', 1), ...some('article', 1)],
    ...(whole ? ['/cart', '/article', '/nothing', '/listing/search?q=a', '/listing/search?q=%00'] : []),
  ];
}

for (const base of ['themes/quay-1.1', 'themes/plain-1.0'])
  for (const [at, kind] of shopKinds.entries())
    test(`axe is silent on pages of ${base}: ${kind.name}`, async ({ page }) => {
      shop = new Shop(':memory:');
      const catalogue = catalogueOf(kind);
      seed(shop, { catalogue, pictures: [], base, addOns: [], own: null, now: '2026-11-24T00:00:00.000Z' });
      const found: string[] = [];
      for (const address of pages(at === 0)) {
        await page.goto(origin + address);
        await page.evaluate(axe.source);
        // Colours are the theme's, whatever the goods: they are looked at once.
        const violations = await page.evaluate(async (colours) => {
          const rules = { 'color-contrast': { enabled: colours } };
          return (await axe.run(document, { resultTypes: ['violations'], rules })).violations;
        }, at === 0);
        found.push(...violations.map(({ id, nodes }) => `${address} ${id}: ${nodes[0]?.html.slice(0, 160) ?? ''}`));
      }
      expect(found).toEqual([]);
      shop.sql.db.close();
    });

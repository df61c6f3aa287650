import { beforeEach, describe, expect, it } from 'vitest';
import { saveFile } from '@/server/drafts/files';
import { draftOf } from '@/server/shop/states';
import { checkedFor, publish } from '@/server/drafts/release';
import { errorPagesOf, rehearse } from './rehearse';
import type { Shop } from '@/server/shop/shop';
import { serveState } from './storefront';
import { demoShop } from '@/server/testing/demo-shop';
import { refusal } from '@/server/testing/met';

let shop: Shop;
beforeEach(() => {
  shop = demoShop();
});
const draft = () => draftOf(shop, 'spring');
const write = (path: string, text: string) =>
  saveFile(shop, draft(), path, text, shop.themes.ownHash(draft().id, path));

/** A list of 4,096, and two loops over it, one in the other: more than a page may go through, and nothing that a check of the text could see. */
const doubled = Array.from({ length: 12 }, () => 'a = a + a').join('; ');
const loops = (inner: string) =>
  `<div do:let="a = [1]; ${doubled}"><p do:each="one in a"><i do:each="other in a">${inner}</i></p></div>`;
const endless = `<draw name="layouts/shop" title="{product.name}">${loops('{product.name}')}</draw>\n`;

describe('before a draft goes live its pages are made', () => {
  it('those of the demo can be, each template’s for awkward subjects and a sample', () => {
    expect(rehearse(shop, draft())).toEqual([]);
  });
  it('two loops at the end of the product’s template pass the checks, and are not published', () => {
    write('product/default.html', endless);
    const { problems, faults } = checkedFor(shop, draft());
    expect(problems.filter(({ severity }) => severity === 'error')).toEqual([]);
    expect(faults.length).toBeGreaterThan(0);
    expect(faults.map(({ page, file, severity }) => [page.split('/')[1], file, severity])).toEqual(
      faults.map(() => ['product', 'product/default.html', 'error']),
    );
    const met = refusal(() => publish(shop, draft(), { note: '' }));
    expect([met.status, met.code, met.message.startsWith('Not published: /product/')]).toEqual([409, 'pages', true]);
    expect(shop.themes.live()?.number).toBe(1);
  });
  it('nor when it is an alternate’s alone, or a piece’s', () => {
    write('alternates.json', JSON.stringify({ alternates: [{ kind: 'product', name: 'own', label: 'Own' }] }));
    write('product/own.html', endless);
    expect(rehearse(shop, draft()).map(({ file }) => file)).toContain('product/own.html');
    write('product/own.html', '<draw name="layouts/shop" title="{product.name}"><p>x</p></draw>\n');
    expect(rehearse(shop, draft())).toEqual([]);
    write('pieces/stock.html', `<takes name="variant" type="Variant" required>\n${loops('{variant.sku}')}\n`);
    expect(rehearse(shop, draft())[0]?.page).toMatch(/^\/product\//);
  });
  it('nor a page that comes out empty', () => {
    write('content/default.html', '<group do:when="content.title is none"><p>x</p></group>\n');
    expect(rehearse(shop, draft())[0]).toMatchObject({
      file: 'content/default.html',
      message: 'The page comes out empty',
    });
  });
});

describe('where a live page cannot be made', () => {
  const get = (path: string) =>
    serveState(
      shop,
      shop.themes.live() as NonNullable<ReturnType<Shop['themes']['live']>>,
      new Request(`http://shop.localhost:4171${path}`),
      path,
    );
  it('the release’s own page for that stands in its place, in the page’s language, with status 500', async () => {
    const pages = errorPagesOf(shop, draft());
    expect(Object.keys(pages)).toEqual(['en-GB', 'fr']);
    // As a slip of ours would have it: a release whose page comes out empty all the same.
    write('content/default.html', '<p do:when="content.title is none">x</p>\n');
    shop.themes.publish(draft().id, '', '2026-11-28T00:00:00Z', '', pages);
    for (const [path, locale, words] of [
      ['/content/delivery', 'en-GB', 'We ran aground'],
      ['/fr/content/delivery', 'fr', 'Nous sommes échoués'],
    ] as const) {
      const answer = await get(path);
      const text = await answer.text();
      expect([answer.status, answer.headers.get('cache-control'), answer.headers.get('content-language')]).toEqual([
        500,
        'no-store',
        locale,
      ]);
      expect([text === pages[locale], text.includes(words)]).toEqual([true, true]);
    }
    expect((await get('/product/deck-oil')).status).toBe(200);
  });
});

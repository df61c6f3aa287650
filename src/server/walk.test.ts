import { beforeAll, describe, expect, it } from 'vitest';
import { withoutMarks } from '@/core/language';
import { browserTree, writtenTree } from '@/core/language/testing/trees';
import type { StateRow } from '@/store/themes';
import { draftOf } from './files';
import { pageOf } from './page';
import type { Shop } from './shop';
import { demoShop } from './testing/demo-shop';

let shop: Shop;
let draft: StateRow;
beforeAll(() => {
  shop = demoShop();
  draft = draftOf(shop, 'spring');
});

/** Every page of the demo. */
function addresses(): string[] {
  const slugs = (table: string) =>
    shop.sql.all<{ slug: string }>(`SELECT slug FROM ${table} ORDER BY id`).map((row) => row.slug);
  return [
    '/',
    '/listing/all',
    '/listing/all?page=2&sort=price',
    '/listing/search?q=rope',
    '/listing/search?q=',
    '/listing/search?q=no+such+thing',
    ...slugs('product').map((slug) => `/product/${slug}`),
    ...shop.sql
      .all<{ slug: string; sku: string }>('SELECT p.slug, v.sku FROM variant v JOIN product p ON p.id = v.product_id')
      .map(({ slug, sku }) => `/product/${slug}?variant=${sku}`),
    ...slugs('category').map((slug) => `/category/${slug}`),
    ...slugs('tag').map((slug) => `/listing/tag/${slug}`),
    ...slugs('brand').map((slug) => `/listing/brand/${slug}`),
    ...slugs('content').map((slug) => `/content/${slug}`),
  ];
}

function ask(address: string, traced = false) {
  const url = new URL(address, 'http://shop.invalid');
  return pageOf(shop, draft, { path: url.pathname, query: Object.fromEntries(url.searchParams), traced });
}

describe('every page of the demo', () => {
  it('comes with status 200, no problem, and the nesting that its templates mean', () => {
    const all = addresses();
    expect(all.length).toBeGreaterThan(100);
    for (const address of all) {
      const page = ask(address);
      expect([address, page.status, page.problems.map((one) => one.message)]).toEqual([address, 200, []]);
      expect([address, writtenTree(page.html)]).toEqual([address, browserTree(page.html, true)]);
      expect(page.html.match(/<h1[\s>]/g)).toHaveLength(1);
    }
  });

  it('as a preview, without its marks, is the live page byte for byte; each mark names a place of a template', () => {
    let count = 0;
    for (const address of addresses()) {
      const { html, trace } = ask(address, true);
      expect([address, withoutMarks(html) === ask(address).html]).toEqual([address, true]);
      for (const [, frame, site] of html.matchAll(/(?:data-last-at="|<!--last )(\d+)\.(\d+)/g)) {
        const at = trace?.site(Number(frame), Number(site));
        expect([address, at?.source.layer, /\.html$/.test(at?.source.file ?? '')]).toEqual([address, 'Quay', true]);
        count++;
      }
    }
    expect(count).toBeGreaterThan(10_000);
  });

  it('has no link that leads nowhere', () => {
    const links = new Set<string>();
    for (const address of addresses())
      for (const [, href = ''] of ask(address).html.matchAll(/href="([^"#][^"]*)"/g))
        links.add(href.replaceAll('&amp;', '&'));
    for (const link of links) {
      if (/^(?:mailto|https?):/.test(link) || link.includes('/assets/') || link.startsWith('/media/')) continue;
      expect(link).toMatch(/^\/draft\/spring\//);
      const path = link.slice('/draft/spring'.length);
      expect([link, ask(path).status]).toEqual([link, 200]);
    }
  });

  it('is made with few queries: at most 25', () => {
    for (const address of addresses()) {
      shop.sql.count = 0;
      ask(address);
      expect([address, shop.sql.count <= 25]).toEqual([address, true]);
    }
  });

  it('is the same bytes each time', () =>
    expect(ask('/product/polyester-braid').html).toBe(ask('/product/polyester-braid').html));
});

describe('pages that are not there', () => {
  for (const address of [
    '/product/gone',
    '/category/gone',
    '/listing/tag/gone',
    '/listing/all?page=99',
    '/listing/all?page=x',
    '/listing/all?page=0',
    '/content/gone',
    '/wp',
    '/product/a/b',
  ]) {
    it(`${address} is a real 404`, () => {
      const page = ask(address);
      expect(page.status).toBe(404);
      expect(page.html).toContain('Nothing moored here');
      expect(page.problems).toEqual([]);
    });
  }
});

describe('awkward goods', () => {
  const table: [name: string, address: string, has: string[], lacks: string[]][] = [
    ['no picture', '/product/oak-fid-small', ['no-picture.svg', 'No picture yet'], ['class="thumbs"']],
    ['no description', '/product/shock-cord', ['Shock cord'], ['About it']],
    ['no summary', '/product/shock-cord', [], ['class="lead"']],
    ['sold out', '/product/galvanised-d-shackle', ['Sold out'], ['Order by e-mail']],
    ['no tags', '/product/tide-notebook', [], ['class="tags"']],
    ['one variant', '/product/deck-oil', ['24 in stock'], ['class="choice"']],
    ['two dozen variants', '/product/polyester-braid', ['Signal red', '12 mm'], []],
    ['a set', '/product/mooring-set', ['In this set', 'Oak horn cleat'], []],
    ['an offer', '/product/splicing-kit', ['<s>£49.00</s>'], []],
    ['an empty category', '/category/anchors', ['next delivery'], ['class="tiles"']],
    ['an attribute that is not for customers', '/product/tarred-hemp-rope', ['right-hand'], ['K9-204']],
    ['a chosen variant', '/product/tarred-hemp-rope?variant=WQ-THR-3', ['£11.40'], []],
    ['a variant that is sold out', '/product/tarred-hemp-rope?variant=WQ-THR-5', ['Sold out'], ['Order by e-mail']],
    ['the root category', '/product/tarred-hemp-rope', ['Rope &amp; cord'], ['>All goods<']],
  ];
  for (const [name, address, has, lacks] of table) {
    it(name, () => {
      const { html } = ask(address);
      for (const text of has) expect(html).toContain(text);
      for (const text of lacks) expect(html).not.toContain(text);
    });
  }
});

describe('orders and pages of a listing, against SQL', () => {
  it('by price', () => {
    const expected = shop.sql
      .all<{ name: string }>('SELECT name FROM product ORDER BY price, id LIMIT 12')
      .map((row) => row.name);
    const shown = [...ask('/listing/all?sort=price').html.matchAll(/<h3><a [^>]*>([^<]*)</g)].map(([, name]) => name);
    expect(shown).toEqual(expected);
  });
  it('24 products at 12 a page make 2 pages (arithmetic)', () => {
    expect(ask('/listing/all?page=2').status).toBe(200);
    expect(ask('/listing/all?page=3').status).toBe(404);
  });
  it('the current page is no link (common practice, no source)', () => {
    expect(ask('/listing/all?page=2').html).toContain('<span aria-current="page">2</span>');
  });
});

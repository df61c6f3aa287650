import { beforeAll, describe, expect, it, vi } from 'vitest';
import { withoutMarks } from '@/core/language';
import { browserTree, writtenTree } from '@/core/language/testing/trees';
import type { StateRow } from '@/store/themes';
import { productFile } from '@/contract/catalogue-file';
import { manyGoods } from '../../../demo/many';
import { saveFile } from '@/server/drafts/files';
import { draftOf } from '@/server/shop/states';
import { fragmentOf, pageOf } from './page';
import type { Shop } from '@/server/shop/shop';
import { demoShop } from '@/server/testing/demo-shop';

let shop: Shop;
let draft: StateRow;
beforeAll(() => {
  shop = demoShop();
  draft = draftOf(shop, 'spring');
});

/** Every page of the demo, in both languages. */
const addresses = (): string[] => pages().flatMap((path) => [path, `/fr${path}`]);

function pages(): string[] {
  const slugs = (table: string) =>
    shop.sql.all<{ slug: string }>(`SELECT slug FROM ${table} ORDER BY id`).map((row) => row.slug);
  return [
    '/',
    '/listing/all',
    '/listing/all?page=2&sort=price',
    '/listing/search?q=rope',
    '/listing/search?q=',
    '/listing/search?q=no+such+thing',
    '/category/rope-and-cord?colour=navy,black&stock=in&view=list',
    '/category/rope-and-cord?page=2&sort=price&diameter=8mm',
    '/listing/all?tag=gift&price=10-50&brand=withy-yard',
    '/listing/all?colour=navy&tag=charts',
    '/cart',
    '/article',
    ...slugs('article').map((slug) => `/article/${slug}`),
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

/** A page, made again where the clock ended it: what it says is looked at here, not how long a busy machine takes. */
function ask(address: string, traced = false) {
  const url = new URL(address, 'http://shop.invalid');
  const made = () => pageOf(shop, draft, { path: url.pathname, query: Object.fromEntries(url.searchParams), traced });
  let page = made();
  for (let more = 0; page.timedOut && more < 3; more++) page = made();
  return page;
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
        const { layer = '', file = '' } = at?.source ?? {};
        expect([address, /^(?:Quay|Quick find|Withy Quay)$/.test(layer), /\.html$/.test(file)]).toEqual([
          address,
          true,
          true,
        ]);
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
      if (link.includes('?variant=') && !link.startsWith('/product/')) continue;
      expect(link).toMatch(/^\//);
      const path = link;
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

  it('makes no query twice', () => {
    const made: string[] = [];
    const spies = (['all', 'get'] as const).map((name) => {
      const query = shop.sql[name].bind(shop.sql);
      return vi.spyOn(shop.sql, name).mockImplementation((sql: string, ...values: unknown[]): never => {
        made.push(JSON.stringify([sql, values]));
        return query(sql, ...values) as never;
      });
    });
    for (const address of addresses()) {
      made.length = 0;
      ask(address);
      expect([address, made.filter((one, at) => made.indexOf(one) !== at)]).toEqual([address, []]);
    }
    for (const spy of spies) spy.mockRestore();
  });

  it('asks the database once when nothing changed since it was last rendered', () => {
    for (const address of ['/product/deck-oil', '/product/polyester-braid', '/fr/product/deck-oil']) {
      ask(address);
      shop.sql.count = 0;
      ask(address);
      expect([address, shop.sql.count]).toEqual([address, 1]);
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
    ['a film among the pictures', '/product/tarred-hemp-rope', ['src="/player/hemp-walk"', 'Film, 3 of 3'], []],
    ['a film field', '/product/ash-block', ['src="/player/ash-block"', 'id="tab-film"'], []],
    ['no film', '/product/deck-oil', [], ['id="tab-film"', '<iframe']],
    ['guides as tabs', '/product/working-smock', ['id="tab-returns"', 'id="tab-care"'], ['id="tab-knots"']],
    ['no guides', '/product/deck-oil', ['id="tab-delivery"'], ['id="tab-returns"']],
    [
      'in French',
      '/fr/product/tarred-hemp-rope',
      ['Cordage de chanvre', 'Mettre au panier', 'Brun goudron'],
      ['Colour'],
    ],
    ['not in French yet', '/fr/product/quay-pennant', ['Quay pennant', 'Épuisé'], []],
    ['the members of a set to choose', '/product/mooring-set', ['name="answer-member-tarred-hemp-rope"'], []],
    ['what is not made', '/product/nylon-mooring-line?variant=WQ-NYM-5', ['is-unmade'], []],
    ['no measurements to give', '/product/deck-oil', [], ['name="answer-measures"']],
    ['measurements', '/product/mainsail-cover-made-to-measure', ['<textarea id="answer-measures"'], []],
    ['no description', '/product/shock-cord', ['Shock cord'], ['About it', 'id="tab-description"']],
    ['no summary', '/product/shock-cord', [], ['class="lead"']],
    ['sold out', '/product/galvanised-d-shackle', ['Sold out'], ['Put in the cart']],
    ['no tags', '/product/tide-notebook', [], ['class="tags"']],
    ['one variant', '/product/deck-oil', ['24 in stock'], ['class="choices"']],
    ['two dozen variants', '/product/polyester-braid', ['Signal red', '12 mm'], []],
    ['a set', '/product/mooring-set', ['In this set', 'Oak horn cleat'], []],
    ['an offer', '/product/splicing-kit', ['<s>£49.00</s>'], []],
    [
      'the five kinds of question',
      '/product/polyester-braid',
      ['type="radio" name="answer-ends"', '<select id="answer-thread"'],
      [],
    ],
    [
      'initials and a present',
      '/product/working-smock',
      ['id="answer-initials"', 'type="checkbox" name="answer-present"'],
      [],
    ],
    [
      'the way to a page in the menu',
      '/product/manila-rope',
      ['aria-current="page">Manila', 'aria-current="true">Rope &amp; cord'],
      [],
    ],
    ['tags on tiles', '/listing/all', ['<li><a href="/listing/tag/natural-fibre">natural fibre</a></li>'], []],
    ['a category without picture', '/category/mooring', ['Everything to stay'], ['has-picture']],
    ['a category without description', '/category/lamps', ['has-picture'], ['class="prose"']],
    ['a category three deep', '/category/natural-fibre-rope', ['Rope &amp; cord</a></li>'], ['class="subcategories"']],
    [
      'nothing has all that is chosen',
      '/listing/all?colour=navy&tag=charts',
      ['Nothing has all of this'],
      ['class="tile'],
    ],
    ['a tag without goods', '/listing/tag/winter', ['Working smock'], []],
    ['a search that finds nothing', '/listing/search?q=zzz', ['Nothing found', 'class="doors"'], []],
    ['a search for nothing', '/listing/search?q=', ['What are you looking for?'], []],
    ['an article without summary and picture', '/article/winter-on-the-hard', ['8 November 2026'], ['class="lead"']],
    ['the articles, newest first', '/article', ['Winter on the hard'], ['class="pager"']],
    [
      'the home page of shelves',
      '/',
      ['class="doors"', 'New on the quay', 'On offer', 'From the loft', 'Caring for rope'],
      [],
    ],
    ['a raster picture in sizes', '/product/kit-bag', ['&amp;w=480&amp;s=', ' 480w', 'sizes="(min-width: 900px)'], []],
    ['an empty category', '/category/anchors', ['next delivery'], ['class="tiles"']],
    ['an attribute that is not for customers', '/product/tarred-hemp-rope', ['right-hand'], ['K9-204']],
    ['a chosen variant', '/product/tarred-hemp-rope?variant=WQ-THR-3', ['£11.40'], []],
    ['a variant that is sold out', '/product/tarred-hemp-rope?variant=WQ-THR-5', ['Sold out'], ['Put in the cart']],
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

describe('what a theme and its layers may say otherwise', () => {
  const shopWith = (path: string, text: string) => {
    const own = demoShop();
    const draft = draftOf(own, 'spring');
    saveFile(own, draft, path, text, own.themes.ownHash(draft.id, path));
    return (address: string) => pageOf(own, draftOf(own, 'spring'), { path: address, query: {} }).html;
  };
  it('the look: tabs beside the pictures', () => {
    const look = '{"settings":[{"name":"tabs_beside","type":"boolean","label":"Tabs beside","value":true}]}';
    const beside = (html: string) => html.indexOf('<div class="tabs">') < html.indexOf('</article>');
    const address = '/product/tarred-hemp-rope';
    expect([beside(shopWith('look.json', look)(address)), beside(ask(address).html)]).toEqual([true, false]);
  });
  it('the look: page size, columns and tiles of one kind of listing, without a template touched', () => {
    const listings = { listings: { category: { page_size: 5, columns: 2, split_by: null } } };
    const page = shopWith('look.json', JSON.stringify(listings));
    const tiles = (html: string) => html.match(/<article class="tile/g)?.length;
    expect([tiles(page('/category/rope-and-cord')), tiles(page('/listing/all'))]).toEqual([5, 12]);
    expect(page('/category/rope-and-cord')).toContain('--columns: 2');
    expect(page('/category/rope-and-cord')).toContain(`>${'12 to choose from'}<`);
  });
  it('a piece of an add-on, like any other', () => {
    const text = '<takes name="q" type="text" served>\n<p>Own: {q}</p>\n';
    const own = demoShop();
    saveFile(own, draftOf(own, 'spring'), 'pieces/suggestions.html', text, null);
    const ask = { path: '/fragment/pieces/suggestions', query: { q: 'rope' } };
    expect(fragmentOf(own, draftOf(own, 'spring'), ask)?.html).toBe('<p>Own: rope</p>\n');
    const usual = fragmentOf(shop, draft, ask)?.html ?? '';
    expect(usual).toContain('role="option"');
    expect(
      fragmentOf(shop, draft, { ...ask, path: '/fr/fragment/pieces/suggestions', query: { q: 'fanal zzz' } })?.html,
    ).toContain('Rien trouvé pour');
  });
});

describe('a large shop', () => {
  it('is the same for the same seed, sound by the contract, and each of its pages is made', () => {
    const goods = [...manyGoods(300, 7)];
    expect([...manyGoods(300, 7)]).toEqual(goods);
    expect([...manyGoods(300, 8)]).not.toEqual(goods);
    expect([goods.length, new Set(goods.map((one) => one.slug)).size]).toEqual([300 - 61, 300 - 61]);
    for (const one of goods) expect(productFile.safeParse(one).success).toBe(true);
    const large = demoShop(goods);
    const state = draftOf(large, 'spring');
    for (const { slug } of goods.slice(0, 60)) {
      const { status, problems } = pageOf(large, state, { path: `/product/${slug}`, query: {} });
      expect([slug, status, problems]).toEqual([slug, 200, []]);
    }
  });
});

describe('orders and pages of a listing, against SQL', () => {
  it('by price', () => {
    for (const [sort, order] of [
      ['price', 'price, id'],
      ['price-down', 'price DESC, id'],
      ['newest', 'added DESC, id DESC'],
    ]) {
      const expected = shop.sql
        .all<{ slug: string }>(`SELECT slug FROM product ORDER BY ${order} LIMIT 12`)
        .map((row) => row.slug);
      const { html } = ask(`/listing/all?sort=${sort}`);
      const shown = [...html.matchAll(/<h3><a href="[^"]*\/product\/([^"?]*)/g)].map(([, slug]) => slug);
      expect([sort, shown]).toEqual([sort, expected]);
    }
  });
  it('61 products at 12 a page make 6 pages (arithmetic)', () => {
    expect(ask('/listing/all?page=6').status).toBe(200);
    expect(ask('/listing/all?page=7').status).toBe(404);
  });
  it('links to the pages before and after carry their relations (RFC 8288)', () => {
    const links = [...ask('/listing/all?page=2').html.matchAll(/<link rel="(prev|next)" href="([^"]*)">/g)];
    expect(links.map(([, relation, href]) => [relation, href])).toEqual([
      ['prev', '/listing/all'],
      ['next', '/listing/all?page=3'],
    ]);
    expect(ask('/listing/all').html).not.toContain('rel="prev"');
    expect(ask('/listing/all?page=6').html).not.toContain('rel="next"');
  });
  it('the current page is not a link (common practice, no source)', () => {
    expect(ask('/listing/all?page=2').html).toContain('<span aria-current="page">2</span>');
  });
});

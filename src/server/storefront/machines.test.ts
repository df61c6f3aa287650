import { writeFileSync } from 'node:fs';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import type { StateRow } from '@/store/themes';
import { robots, sitemap } from './machines';
import { pageOf } from './page';
import { demoShop } from '@/server/testing/demo-shop';

const shop = demoShop();
const live = shop.themes.live() as StateRow;
const origin = 'https://quay.example';
const page = (address: string) => {
  const url = new URL(address, origin);
  return pageOf(shop, live, { path: url.pathname, query: Object.fromEntries(url.searchParams), origin });
};
const dataOf = (html: string): unknown[] =>
  [...html.matchAll(/<script type="application\/ld\+json">([^]*?)<\/script>/g)].map(([, text]) =>
    JSON.parse(text as string),
  );

describe('schema.org data, held to its definitions (package schema-dts) by the TypeScript compiler', () => {
  const pages: [type: string, address: string][] = [
    ['Product', '/product/tarred-hemp-rope'],
    ['Product', '/product/deck-oil'],
    ['Product', '/product/mooring-set'],
    ['Product', '/fr/product/anchor-lamp'],
    ['Product', '/product/galvanised-d-shackle'],
    ['ItemList', '/category/rope-and-cord'],
    ['ItemList', '/listing/tag/gift'],
    ['Article', '/article/first-eye-splice'],
    ['BreadcrumbList', '/product/tarred-hemp-rope'],
  ];
  it('every page’s', () => {
    const lines = pages.map(([type, address], at) => {
      const found = dataOf(page(address).html).find((one) => (one as { '@type': string })['@type'] === type);
      expect([address, type, found !== undefined]).toEqual([address, type, true]);
      return `export const page${at}: WithContext<${type}> = ${JSON.stringify(found)};`;
    });
    const file = `node_modules/.structured-${process.pid}.ts`;
    const types = [...new Set(pages.map(([type]) => type))].join(', ');
    writeFileSync(file, `import type { ${types}, WithContext } from 'schema-dts';\n${lines.join('\n')}\n`);
    const program = ts.createProgram([file], {
      noEmit: true,
      strict: true,
      skipLibCheck: true,
      types: [],
      moduleResolution: ts.ModuleResolutionKind.Bundler,
      module: ts.ModuleKind.ESNext,
    });
    const said = ts
      .getPreEmitDiagnostics(program)
      .map((one) => ts.flattenDiagnosticMessageText(one.messageText, ' ').slice(0, 300));
    ts.sys.deleteFile?.(file);
    expect(said).toEqual([]);
  });
  it('says prices as decimal amounts, addresses whole', () => {
    const [product] = dataOf(page('/product/deck-oil').html) as { url: string; offers: Record<string, unknown> }[];
    expect([product?.url, product?.offers.price, product?.offers.priceCurrency, product?.offers.availability]).toEqual([
      `${origin}/product/deck-oil`,
      '16.50',
      'GBP',
      'https://schema.org/InStock',
    ]);
  });
});

describe('what search engines are told', () => {
  const link = (html: string, relation: string) =>
    [...html.matchAll(new RegExp(`<link rel="${relation}"(?: hreflang="([^"]*)")? href="([^"]*)">`, 'g'))].map(
      ([, language, href]) => [...(language ? [language] : []), href],
    );
  const table: [address: string, canonical: string | null][] = [
    ['/product/tarred-hemp-rope?variant=WQ-THR-3', '/product/tarred-hemp-rope'],
    ['/category/rope-and-cord?page=2', '/category/rope-and-cord?page=2'],
    ['/listing/all?colour=navy&sort=price', '/listing/all'],
    ['/fr/content/care', '/fr/content/care'],
    ['/listing/search?q=rope', null],
    ['/cart', null],
    ['/gone', null],
  ];
  for (const [address, canonical] of table)
    it(address, () => {
      const { html } = page(address);
      expect(link(html, 'canonical')).toEqual(canonical === null ? [] : [[origin + canonical]]);
      expect(html.includes('<meta name="robots" content="noindex">')).toBe(canonical === null);
    });
  it('each language of a page, by tags that Intl knows (BCP 47), and the first for all others', () => {
    const found = link(page('/product/deck-oil').html, 'alternate');
    expect(found).toEqual([
      ['en-GB', `${origin}/product/deck-oil`],
      ['fr', `${origin}/fr/product/deck-oil`],
      ['x-default', `${origin}/product/deck-oil`],
    ]);
    for (const [language] of found.slice(0, 2)) expect(Intl.getCanonicalLocales(language)).toEqual([language]);
    expect(page('/fr/product/deck-oil').html).toContain('<html lang="fr"');
  });
});

describe('sitemap.xml, by the rules of sitemaps.org', () => {
  const text = sitemap(shop, live, origin, null) as string;
  it('is sound XML of at most 50,000 addresses, each whole, escaped, shorter than 2,048 characters, once, and leading to a page', () => {
    expect(XMLValidator.validate(text)).toBe(true);
    const read = new XMLParser({ ignoreAttributes: false }).parse(text) as {
      urlset: { '@_xmlns': string; url: { loc: string; lastmod?: string }[] };
    };
    expect(read.urlset['@_xmlns']).toBe('http://www.sitemaps.org/schemas/sitemap/0.9');
    const places = read.urlset.url.map((one) => one.loc);
    expect(places.length).toBeGreaterThan(150);
    expect(places.length).toBeLessThanOrEqual(50_000);
    expect(new Set(places).size).toBe(places.length);
    for (const place of places) {
      expect(place.length).toBeLessThan(2048);
      expect(new URL(place).href).toBe(place);
      const { status } = page(place.slice(`${origin}`.length) || '/');
      expect([place, status]).toEqual([place, 200]);
    }
    for (const { lastmod } of read.urlset.url) if (lastmod) expect(lastmod).toMatch(/^\d{4}-\d\d-\d\d$/);
  });
  it('names no cart, search, filter or draft', () =>
    expect(text).not.toMatch(/<loc>[^<]*(?:\/cart|search|\?|\/draft\/)/));
  it('has no second part while one holds all', () =>
    expect([sitemap(shop, live, origin, 1), sitemap(shop, live, origin, 2)]).toEqual([null, null]));
  it('is an index of parts for a catalogue that one cannot hold', () => {
    const large = demoShop();
    const add = large.sql.db.prepare("INSERT INTO product (slug, name, added) VALUES (?, 'x', '2026-01-01')");
    large.themes.transaction(() => {
      for (let at = 0; at < 30_000; at++) add.run(`more-${at}`);
    });
    const state = large.themes.live() as StateRow;
    const index = sitemap(large, state, origin, null) as string;
    expect(XMLValidator.validate(index)).toBe(true);
    const parts = [...index.matchAll(/<loc>([^<]*)<\/loc>/g)].map(([, place]) => place);
    expect(parts).toEqual([`${origin}/sitemap-1.xml`, `${origin}/sitemap-2.xml`]);
    const counts = [1, 2].map((part) => sitemap(large, state, origin, part)?.match(/<url>/g)?.length ?? 0);
    expect(Math.max(...counts)).toBeLessThanOrEqual(50_000);
    const all = (text.match(/<url>/g)?.length ?? 0) + 60_000;
    expect(counts[0] as number).toBeGreaterThan(40_000);
    expect((counts[0] as number) + (counts[1] as number)).toBe(all);
    expect(sitemap(large, state, origin, 3)).toBeNull();
  });
});

it('robots.txt keeps crawlers from drafts, carts and searches, and names the sitemap (RFC 9309)', () => {
  const lines = robots(origin, ['en-GB', 'fr'], true).split('\n');
  expect(lines).toEqual([
    'User-agent: *',
    ...['/cart', '/listing/search', '/fragment/', '/fr/cart', '/fr/listing/search', '/fr/fragment/'].map(
      (path) => `Disallow: ${path}`,
    ),
    '',
    `Sitemap: ${origin}/sitemap.xml`,
    '',
  ]);
  expect(robots(origin, ['en-GB'], false)).toBe('User-agent: *\nDisallow: /\n');
});

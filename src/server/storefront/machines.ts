import { localePrefix, pathOf, type Subject } from '@/core/address';
import { indexedSubjects, type StateRow } from '@/store';
import { prefixOf } from './page';
import type { Shop } from '@/server/shop';

/** A sitemap holds at most 50,000 addresses (sitemaps.org); each language of a page is one. */
const maxAddresses = 45_000;

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

/** Every page that search engines are to know, without filters, orders and carts; articles with their day. */
function subjects(shop: Shop): (Subject & { day: string })[] {
  const rows = indexedSubjects(shop.sql);
  const fixed = (kind: Subject['kind'], slug = '') => ({ kind, slug, day: '' });
  const articles = rows.some((row) => row.kind === 'article') ? [fixed('articles')] : [];
  return [fixed('home'), fixed('listing', 'all'), ...articles, ...rows];
}

/**
 * `sitemap.xml` of a state, by the protocol of sitemaps.org; with `part` (from 1) one of several, else, when there are more
 * addresses than one may hold, the index of them. Null for a part that there is not.
 */
export function sitemap(shop: Shop, state: StateRow, origin: string, part: number | null): string | null {
  const { locales } = shop.catalogue().shop();
  const all = subjects(shop);
  const each = Math.floor(maxAddresses / locales.length);
  const parts = Math.ceil(all.length / each);
  const head = '<?xml version="1.0" encoding="UTF-8"?>\n';
  const prefix = prefixOf(state);
  if (part === null && parts > 1) {
    const names = Array.from({ length: parts }, (_, at) => `${origin}${prefix}/sitemap-${at + 1}.xml`);
    const list = names.map((name) => `<sitemap><loc>${escaped(name)}</loc></sitemap>`).join('\n');
    return `${head}<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n${list}\n</sitemapindex>\n`;
  }
  if (part !== null && (part < 1 || part > parts || parts === 1)) return null;
  const from = ((part ?? 1) - 1) * each;
  const entries = all.slice(from, from + each).flatMap((subject) => {
    const addresses = locales.map((locale) => {
      const base = `${origin}${prefix}${localePrefix(locale, locales)}`;
      return [locale, escaped(base + pathOf(subject))] as const;
    });
    const others =
      locales.length > 1
        ? addresses.map(([locale, url]) => `<xhtml:link rel="alternate" hreflang="${locale}" href="${url}"/>`).join('')
        : '';
    const day = subject.day ? `<lastmod>${subject.day}</lastmod>` : '';
    return addresses.map(([, url]) => `<url><loc>${url}</loc>${day}${others}</url>`);
  });
  const names =
    'xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"' +
    (locales.length > 1 ? ' xmlns:xhtml="http://www.w3.org/1999/xhtml"' : '');
  return `${head}<urlset ${names}>\n${entries.join('\n')}\n</urlset>\n`;
}

/** `robots.txt` (RFC 9309): the live shop may be read, its carts and searches not, anything else not at all. */
export function robots(origin: string, locales: readonly string[], live: boolean): string {
  if (!live) return 'User-agent: *\nDisallow: /\n';
  const paths = locales.flatMap((locale) => {
    const base = localePrefix(locale, locales);
    return [`${base}/cart`, `${base}/listing/search`, `${base}/fragment/`];
  });
  const lines = paths.map((path) => `Disallow: ${path}`);
  return ['User-agent: *', ...lines, '', `Sitemap: ${origin}/sitemap.xml`, ''].join('\n');
}

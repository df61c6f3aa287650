/** The kinds of page that show a subject: what templates are assigned to. */
export const subjectKinds = [
  'home',
  'product',
  'category',
  'listing',
  'content',
  'article',
  'articles',
  'cart',
] as const;

/** The kinds of page that have templates, each with a folder of its own in the theme. */
export const pageKinds = [...subjectKinds, 'not-found', 'error'] as const;
export type PageKind = (typeof pageKinds)[number];

/** What an address of the storefront asks for. `slug` of a listing: `all`, `search`, `offer`, `tag/<slug>` or `brand/<slug>`. */
export interface Subject {
  kind: (typeof subjectKinds)[number];
  slug: string;
}

/** Reads a path of the site (`/product/tarred-hemp-rope`); null for one that no page has. */
export function readPath(path: string): Subject | null {
  const parts: string[] = [];
  for (const part of path.split('/').filter(Boolean)) {
    try {
      parts.push(decodeURIComponent(part));
    } catch {
      return null;
    }
  }
  const [kind, slug, more, ...rest] = parts;
  if (!kind) return { kind: 'home', slug: '' };
  if (slug === undefined && kind === 'cart') return { kind, slug: '' };
  if (slug === undefined && kind === 'article') return { kind: 'articles', slug: '' };
  if (!slug || rest.length) return null;
  if (kind === 'listing') {
    if (/^(?:all|search|offer)$/.test(slug) && more === undefined) return { kind, slug };
    return (slug === 'tag' || slug === 'brand') && more ? { kind, slug: `${slug}/${more}` } : null;
  }
  if (more !== undefined) return null;
  return kind === 'product' || kind === 'category' || kind === 'content' || kind === 'article' ? { kind, slug } : null;
}

/** The path of a subject's page. */
export function pathOf({ kind, slug }: Subject): string {
  if (kind === 'home') return '/';
  if (kind === 'cart') return '/cart';
  if (kind === 'articles') return '/article';
  return `/${kind}/${slug.split('/').map(encodeURIComponent).join('/')}`;
}

/**
 * The language that a path names, and the path after it: `/fr/product/x` is `/product/x` in French. The first of the
 * shop's languages has no name in addresses.
 */
export function readLocale(path: string, [first = '', ...others]: readonly string[]): { locale: string; path: string } {
  const named = /^\/([A-Za-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)(\/.*|$)/.exec(path);
  const locale = named && others.find((one) => one.toLowerCase() === (named[1] as string).toLowerCase());
  return locale ? { locale, path: named?.[2] || '/' } : { locale: first, path };
}

/** What stands before a path of a language: nothing for the shop's first. */
export const localePrefix = (locale: string, locales: readonly string[]): string =>
  locale === locales[0] ? '' : `/${locale}`;

/** The kinds of page that have templates, each with a folder of its own in the theme. */
export const pageKinds = ['home', 'product', 'category', 'listing', 'content', 'article', 'cart', 'not-found'] as const;
export type PageKind = (typeof pageKinds)[number];

/** What an address of the storefront asks for. `slug` of a listing: `all`, `search`, `tag/<slug>` or `brand/<slug>`. */
export interface Subject {
  kind: 'home' | 'product' | 'category' | 'listing' | 'content';
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
  if (!slug || rest.length) return null;
  if (kind === 'listing') {
    if ((slug === 'all' || slug === 'search') && more === undefined) return { kind, slug };
    return (slug === 'tag' || slug === 'brand') && more ? { kind, slug: `${slug}/${more}` } : null;
  }
  if (more !== undefined) return null;
  return kind === 'product' || kind === 'category' || kind === 'content' ? { kind, slug } : null;
}

/** The path of a subject's page. */
export function pathOf({ kind, slug }: Subject): string {
  if (kind === 'home') return '/';
  return `/${kind}/${slug.split('/').map(encodeURIComponent).join('/')}`;
}

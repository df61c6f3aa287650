import { type AddressedKind, type ProductFilter, TagObject, type World } from '@/core/catalogue';
import { Html, type SiteServices } from '@/core/language';
import type { Theme } from '@/core/theme';

interface Asked {
  theme: Theme;
  world: World;
  /** Collects the paths of the theme's files that the page links. */
  assets: Set<string>;
  phrase: SiteServices['phrase'];
}

/** What templates may ask of the site that a page is of. */
export function services({ theme, world, assets, phrase }: Asked, prefix: string): SiteServices {
  const asset = (path: string): string | null => {
    const file = theme.file(`assets/${path}`);
    if (!file && path === 'fonts.css' && theme.fonts) return `${prefix}/assets/fonts.css?v=${theme.fonts.version}`;
    if (!file) return null;
    assets.add(file.path);
    // The hash in the address changes with the content: the answer may be kept for good, and is never stale.
    return `${prefix}/assets/${path.split('/').map(encodeURIComponent).join('/')}?v=${file.hash.slice(0, 12)}`;
  };
  /** By its slug, or by one that it had before. */
  const named = <T>(kind: AddressedKind, slug: string, find: (slug: string) => T | null | undefined): T | null => {
    const there = find(slug);
    if (there) return there;
    const now = world.source.redirects().slugOf(kind, slug);
    return now === null ? null : (find(now) ?? null);
  };
  return {
    phrase,
    asset,
    icon: (name) => {
      if (!/^[a-z0-9-]+$/.test(name) || !theme.file(`assets/icons/${name}.svg`)) return null;
      assets.add(`assets/icons/${name}.svg`);
      const sprite = `${prefix}/assets/icons.svg?v=${theme.iconsVersion}`;
      return new Html(
        `<svg class="icon" width="1em" height="1em" aria-hidden="true"><use href="${sprite}#${name}"/></svg>`,
      );
    },
    content: (slug) => named('content', slug, (one) => world.content(one)),
    category: (slug) => named('category', slug, (one) => world.categoryBySlug(one)),
    product: (slug) => {
      const row = named('product', slug, (one) => world.source.productBySlug(one));
      return row ? (world.products([row])[0] ?? null) : null;
    },
    article: (slug) => named('article', slug, (one) => world.article(one)),
    tag: (slug) => {
      const row = named('tag', slug, (one) => world.source.tagBySlug(one));
      return row && new TagObject(world, row);
    },
    brand: (slug) => named('brand', slug, (one) => world.brandBySlug(one)),
    menu: (slug) => world.menu(slug),
    picture: (path) => world.picture(path),
    address: world.address,
    players: theme.about.players,
    served: (piece) => theme.template(piece)?.takes.some((take) => take.served) ?? false,
    categories: () => world.firstCategories(),
    articles: (limit) => world.articles(0, limit),
    products: ({ category, tag, type, sort, limit, search }) => {
      const filter: ProductFilter = {};
      if (category !== undefined) {
        const row = named('category', category, (slug) => world.categoryRows().find((one) => one.slug === slug));
        if (!row) return [];
        filter.categoryId = row.id;
      }
      if (tag !== undefined) {
        const row = named('tag', tag, (slug) => world.source.tagBySlug(slug));
        if (!row) return [];
        filter.tagId = row.id;
      }
      if (type !== undefined) filter.type = type;
      const usual = search === undefined ? 'chosen' : 'match';
      const order = sort === 'name' || sort === 'price' || sort === 'price-down' || sort === 'newest' ? sort : usual;
      const found = search === undefined ? null : world.source.search(search, 200);
      const count = Math.min(limit ?? 48, 200);
      const query = { filter, found, sort: order, names: world.names(), offset: 0, limit: count } as const;
      const { rows } = world.source.index(null).list(query);
      return world.productsById(rows.map(({ productId }) => productId));
    },
  };
}

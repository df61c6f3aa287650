import type { CellContext, NamedKind } from '@/core/exchange';
import type { Shop } from '@/server/shop';

interface Names {
  slugs: ReadonlyMap<string, string>;
  names: ReadonlyMap<string, string>;
}

/** What the cells of a shop's products are read by. */
export function cellContext(shop: Shop): CellContext {
  const source = shop.catalogue();
  const found = new Map<NamedKind, Names>();
  const names = (kind: NamedKind): Names => {
    let known = found.get(kind);
    if (!known) {
      const rows = kind === 'brand' ? source.brands() : kind === 'tag' ? source.allTags() : source.categories();
      const slugs = new Map<string, string>();
      for (const { slug, name } of rows) {
        const called = name.trim().toLowerCase();
        // Of two that are called the same only the first is found by that.
        if (!slugs.has(called)) slugs.set(called, slug);
      }
      for (const { slug } of rows) slugs.set(slug, slug);
      found.set(kind, (known = { slugs, names: new Map(rows.map(({ slug, name }) => [slug, name])) }));
    }
    return known;
  };
  return {
    currency: source.shop().currency,
    fields: new Map(source.fieldDefinitions('product').map((one) => [one.key, one])),
    slugOf: (kind, called) => names(kind).slugs.get(called.trim().toLowerCase()) ?? null,
    nameOf: (kind, slug) => names(kind).names.get(slug) ?? null,
  };
}

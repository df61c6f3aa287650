import {
  type ListingIndex,
  type CategoryRow,
  type MenuItemRow,
  type PageRow,
  type ProductRow,
  type Split,
} from '@/core/catalogue';
import { StoredCatalogue } from './catalogue';
import { liveCounts, type Hidden, type HideableKind } from './hidden';
import { listingIndex } from './listing-indexes';
import type { RevisionCache } from './revision-cache';
import type { Statements } from './statements';
import type { RevisedShop } from './visit';

/** The same catalogue as customers see it: itself, where nothing is kept out of live. */
export function asCustomersSee(source: StoredCatalogue): StoredCatalogue {
  const hidden = source instanceof LiveCatalogue ? null : source.hidden();
  return hidden
    ? source.seenAs((locale, cache, row) => new LiveCatalogue(source.sql, locale, cache, row, hidden))
    : source;
}

/** The catalogue without what is kept out of live. */
class LiveCatalogue extends StoredCatalogue {
  constructor(
    sql: Statements,
    locale: string | null,
    private readonly shared: RevisionCache,
    private readonly revised: RevisedShop | null,
    private readonly kept: Hidden,
  ) {
    super(sql, locale, shared, revised);
  }

  override in(locale: string | null): StoredCatalogue {
    return new LiveCatalogue(this.sql, locale, this.shared, this.revised, this.kept);
  }

  #seen<T>(kind: HideableKind, rows: readonly T[], id: (row: T) => number): T[] {
    return rows.filter((row) => !this.kept.ids[kind].has(id(row)));
  }

  override productBySlug(slug: string): ProductRow | null {
    const row = super.productBySlug(slug);
    return row && this.kept.ids.product.has(row.id) ? null : row;
  }

  override products(ids: readonly number[]): readonly ProductRow[] {
    return super.products(this.#seen('product', ids, (id) => id));
  }

  override index(split: Split | null): ListingIndex {
    return listingIndex(this.sql, this.shared, split, true, (slug) => this.productBySlug(slug)?.id);
  }

  override search(words: string, limit: number): number[] {
    return this.#seen('product', super.search(words, limit + this.kept.ids.product.size), (id) => id).slice(0, limit);
  }

  override categories(): CategoryRow[] {
    const counts = this.shared.of('live counts', () => liveCounts(this.sql));
    return this.#seen('category', super.categories(), ({ id }) => id).map((row) => ({
      ...row,
      productCount: counts.get(row.id) ?? 0,
    }));
  }

  override productCategories(ids: readonly number[]): readonly { productId: number; categoryId: number }[] {
    return this.#seen('category', super.productCategories(ids), ({ categoryId }) => categoryId);
  }

  override members(ids: readonly number[]): readonly { productId: number; memberId: number }[] {
    return this.#seen('product', super.members(ids), ({ memberId }) => memberId);
  }

  override related(ids: readonly number[]): readonly { productId: number; relatedId: number }[] {
    return this.#seen('product', super.related(ids), ({ relatedId }) => relatedId);
  }

  override contents(): PageRow[] {
    return this.#seen('content', super.contents(), ({ id }) => id);
  }

  override articles(): PageRow[] {
    return this.#seen('article', super.articles(), ({ id }) => id);
  }

  /** Links to pages that customers do not see go, with what stands below them. */
  override menu(slug: string): MenuItemRow[] {
    const gone = new Set<number>();
    return super.menu(slug).filter(({ id, parentId, target }) => {
      const leads = this.kept.paths.has(target.replace(/[?#].*$/, ''));
      if (leads || (parentId !== null && gone.has(parentId))) gone.add(id);
      return !gone.has(id);
    });
  }
}

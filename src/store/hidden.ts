import { pathOf } from '@/core/address';
import type { Statements } from './statements';

/** Kinds of which records can be kept out of live. */
export const hideableKinds = ['product', 'category', 'content', 'article'] as const;
export type HideableKind = (typeof hideableKinds)[number];

/** What customers do not see: by kind the numbers, and the paths of the pages. */
export interface Hidden {
  ids: Record<HideableKind, ReadonlySet<number>>;
  paths: ReadonlySet<string>;
}

/** Categories below one that is kept out of live are kept out with it. */
const queries: Record<HideableKind, string> = {
  product: 'SELECT id, slug FROM product WHERE live = 0',
  category: `WITH RECURSIVE hidden(id) AS (
      SELECT id FROM category WHERE live = 0 UNION SELECT c.id FROM hidden h JOIN category c ON c.parent_id = h.id
    ) SELECT c.id, c.slug FROM hidden h JOIN category c ON c.id = h.id`,
  content: 'SELECT id, slug FROM content WHERE live = 0',
  article: 'SELECT id, slug FROM article WHERE live = 0',
};

/** What is kept out of live; null where nothing is. */
export function readHidden(sql: Statements): Hidden | null {
  const paths = new Set<string>();
  const ids = (kind: HideableKind): Set<number> => {
    const rows = sql.all<{ id: number; slug: string }>(queries[kind]);
    for (const { slug } of rows) paths.add(pathOf({ kind, slug }));
    return new Set(rows.map(({ id }) => id));
  };
  const all = { product: ids('product'), category: ids('category'), content: ids('content'), article: ids('article') };
  return paths.size ? { ids: all, paths } : null;
}

/** How many products customers see in each category and below it, by the category's number. */
export function liveCounts(sql: Statements): Map<number, number> {
  const rows = sql.all<{ id: number; n: number }>(
    `WITH RECURSIVE below(top, id) AS (
       SELECT id, id FROM category WHERE live = 1
       UNION SELECT b.top, c.id FROM below b JOIN category c ON c.parent_id = b.id AND c.live = 1
     )
     SELECT b.top AS id, count(DISTINCT pc.product_id) AS n FROM below b JOIN product_category pc ON pc.category_id = b.id
     JOIN product p ON p.id = pc.product_id AND p.live = 1 GROUP BY b.top`,
  );
  return new Map(rows.map(({ id, n }) => [id, n]));
}

import type { Statements } from './statements';
import { countOfKind, type StoredKind } from './subjects';

/** Of each kind, the subjects that templates most often fail for: the longest name, the most and the fewest of something. */
const awkward: Record<StoredKind, readonly string[]> = {
  product: [
    'SELECT slug FROM product ORDER BY length(name) DESC, id LIMIT 1',
    'SELECT slug FROM product ORDER BY (SELECT count(*) FROM variant v WHERE v.product_id = product.id) DESC, id LIMIT 1',
    'SELECT slug FROM product ORDER BY (SELECT count(*) FROM variant v WHERE v.product_id = product.id), id LIMIT 1',
    'SELECT slug FROM product ORDER BY (SELECT count(*) FROM product_tag t WHERE t.product_id = product.id) DESC, id LIMIT 1',
    'SELECT slug FROM product ORDER BY (SELECT sum(max(v.stock, 0)) FROM variant v WHERE v.product_id = product.id), id LIMIT 1',
    'SELECT slug FROM product ORDER BY brand_id IS NOT NULL, id LIMIT 1',
  ],
  category: [
    'SELECT slug FROM category ORDER BY product_count DESC, id LIMIT 1',
    'SELECT slug FROM category ORDER BY product_count, id LIMIT 1',
    'SELECT slug FROM category ORDER BY length(name) DESC, id LIMIT 1',
  ],
  content: ['SELECT slug FROM content ORDER BY id LIMIT 2'],
  article: ['SELECT slug FROM article ORDER BY id LIMIT 2'],
};

/** Slugs of awkward subjects of a kind, and of `size` others spread over all of them. */
export function sampleOf(sql: Statements, kind: StoredKind, size: number): string[] {
  const last = sql.get<{ last: number }>(`SELECT coalesce(max(id), 0) AS last FROM ${kind}`)?.last ?? 0;
  const spread = countOfKind(sql, kind)
    ? Array.from({ length: size }, (_, at) => Math.floor((last * at) / size)).flatMap((from) =>
        sql.all<{ slug: string }>(`SELECT slug FROM ${kind} WHERE id > ? ORDER BY id LIMIT 1`, from),
      )
    : [];
  const found = [...awkward[kind].flatMap((query) => sql.all<{ slug: string }>(query)), ...spread];
  return [...new Set(found.map(({ slug }) => slug))];
}

/** Slugs of the tags with the longest names. */
export function longestTags(sql: Statements, limit: number): string[] {
  const rows = sql.all<{ slug: string }>('SELECT slug FROM tag ORDER BY length(name) DESC, id LIMIT ?', limit);
  return rows.map(({ slug }) => slug);
}

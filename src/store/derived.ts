import { noteSearched } from './changed-rows';
import type { Statements } from './statements';

/** Of all, or of those whose numbers are given as JSON: said in the query, so that one of few is found by its number. */
const among = (column: string, some: readonly number[] | null): string =>
  some ? `${column} IN (SELECT value FROM json_each(:ids))` : 'true';

/** Tells products' prices and stock from their variants: of some products, or of all (null). The price before is that of the lowest-priced variant. */
export function tellPrices(sql: Statements, some: readonly number[] | null): void {
  sql.run(
    `UPDATE product SET (price, price_high, was_price, stock) = (
       SELECT min(v.price), max(v.price),
         (SELECT w.was_price FROM variant w WHERE w.product_id = product.id ORDER BY w.price, w.position LIMIT 1),
         coalesce(sum(max(v.stock, 0)), 0)
       FROM variant v WHERE v.product_id = product.id)
     WHERE ${among('id', some)}`,
    { ids: JSON.stringify(some ?? []) },
  );
}

/** Tells how many products are in each category and those below it, each once. */
export function tellCounts(sql: Statements): void {
  sql.run(
    `WITH RECURSIVE below(top, id) AS (
       SELECT id, id FROM category UNION SELECT b.top, c.id FROM below b JOIN category c ON c.parent_id = b.id
     ), counted(id, n) AS (
       SELECT b.top, count(DISTINCT pc.product_id) FROM below b JOIN product_category pc ON pc.category_id = b.id GROUP BY b.top
     )
     UPDATE category SET product_count = coalesce((SELECT n FROM counted WHERE counted.id = category.id), 0)`,
  );
}

/** Rows of a product in the search begin at its number times this: one a language. */
export const rowsEach = 100;

/** Removes products from the search. */
export function forgetSearch(sql: Statements, ids: readonly number[]): void {
  noteSearched(sql, ids);
  // Their rows are found in the table beneath: the search itself goes through a range of them many times as slowly.
  sql.run(
    `DELETE FROM product_search WHERE rowid IN (
       SELECT row.id FROM json_each(?) AS one CROSS JOIN product_search_content AS row
       WHERE row.id BETWEEN one.value * ${rowsEach} AND one.value * ${rowsEach} + ${rowsEach - 1}
     )`,
    JSON.stringify(ids),
  );
}

/**
 * Fills the search again, for all products or for some: a row a product in the first language, and one in each other that has
 * texts of it.
 */
export function tellSearch(sql: Statements, first: string, some: readonly number[] | null = null): void {
  if (some) forgetSearch(sql, some);
  else noteSearched(sql, null);
  const ids = JSON.stringify(some ?? []);
  const skus = `p.sku || ' ' || coalesce((SELECT group_concat(v.sku, ' ') FROM variant v WHERE v.product_id = p.id), '')`;
  const tags = (name: string) =>
    `coalesce((SELECT group_concat(${name}, ' ') FROM product_tag pt JOIN tag t ON t.id = pt.tag_id WHERE pt.product_id = p.id), '')`;
  sql.run(
    `INSERT INTO product_search (rowid, name, tags, sku, summary, product_id, locale)
     SELECT p.id * ${rowsEach}, p.name, ${tags('t.name')}, ${skus}, p.summary, p.id, :first FROM product p WHERE ${among('p.id', some)}`,
    { first, ids },
  );
  const text = (field: string) =>
    `coalesce((SELECT value FROM translation x WHERE x.kind = 'product' AND x.id = p.id AND x.locale = l.locale AND x.field = '${field}'), '')`;
  const tag = `coalesce((SELECT value FROM translation x WHERE x.kind = 'tag' AND x.id = t.id AND x.locale = l.locale AND x.field = 'name'), '')`;
  sql.run(
    `INSERT INTO product_search (rowid, name, tags, sku, summary, product_id, locale)
     SELECT p.id * ${rowsEach} + l.number, ${text('name')}, ${tags(tag)}, '', ${text('summary')}, p.id, l.locale
     FROM (
       SELECT id, locale, row_number() OVER (PARTITION BY id ORDER BY locale) AS number
       FROM (SELECT DISTINCT id, locale FROM translation WHERE kind = 'product' AND ${among('id', some)})
     ) l JOIN product p ON p.id = l.id`,
    { ids },
  );
}

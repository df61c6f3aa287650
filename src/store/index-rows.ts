import type { IndexRows } from '@/core/catalogue';
import { readColumns } from './columns';
import type { Statements } from './statements';

/**
 * The rows that listing indexes are made from; `live`: without products that are kept out of live; `ids`: of these products alone, all categories
 * aside.
 */
export function indexRows(sql: Statements, live = false, ids: readonly number[] | null = null): IndexRows {
  const some = JSON.stringify(ids ?? []);
  /** Of some products only: said in the query, so that few are found by their numbers. */
  const among = (column: string, and = 'WHERE') =>
    ids ? `${and} ${column} IN (SELECT value FROM json_each(:ids))` : '';
  const variants = (column: string) =>
    ids ? `WHERE ${column} IN (SELECT id FROM variant ${among('product_id')})` : '';
  const values = (column: string, and = 'WHERE') =>
    ids
      ? `${and} ${column} IN (SELECT v.id FROM option o JOIN option_value v ON v.option_id = o.id ${among('o.product_id')})`
      : '';
  function* each<T extends unknown[]>(columns: number, query: string): Generator<T> {
    const read = readColumns(sql, columns, query, ...(ids ? [{ ids: some }] : []));
    const length = read[0]?.length ?? 0;
    for (let at = 0; at < length; at++) yield read.map((list) => list[at]) as T;
  }
  return {
    products: () =>
      each(
        5,
        `SELECT id, type, brand_id, added, position FROM product WHERE ${live ? 'live = 1' : 'true'} ${among('id', 'AND')} ORDER BY position, id`,
      ),
    variants: () =>
      each(
        5,
        `SELECT id, product_id, price, stock, coalesce(was_price > price, 0) FROM variant ${among('product_id')} ORDER BY product_id, position, id`,
      ),
    values: () => each(2, `SELECT variant_id, value_id FROM variant_value ${variants('variant_id')}`),
    optionValues: () =>
      each(
        4,
        `SELECT v.id, o.slug, v.slug, v.position FROM option_value v JOIN option o ON o.id = v.option_id ${among('o.product_id')}`,
      ),
    pictures: () =>
      each(
        2,
        `SELECT mv.value_id, count(*) FROM media_value mv JOIN media m ON m.id = mv.media_id
         WHERE m.kind = 'image' ${values('mv.value_id', 'AND')} GROUP BY mv.value_id`,
      ),
    tags: () => each(2, `SELECT product_id, tag_id FROM product_tag ${among('product_id')}`),
    categories: () => each(2, `SELECT product_id, category_id FROM product_category ${among('product_id')}`),
    parents: () => each(2, 'SELECT id, parent_id FROM category'),
  };
}

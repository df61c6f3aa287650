import type { IndexRows } from '@/core/catalogue';
import { readColumns } from './columns';
import type { Statements } from './statements';

/** The rows that listing indexes are made from; `live`: without products that are kept out of live. */
export function indexRows(sql: Statements, live = false): IndexRows {
  function* each<T extends unknown[]>(columns: number, query: string): Generator<T> {
    const read = readColumns(sql, columns, query);
    const length = read[0]?.length ?? 0;
    for (let at = 0; at < length; at++) yield read.map((list) => list[at]) as T;
  }
  return {
    products: () =>
      each(4, `SELECT id, type, brand_id, added FROM product ${live ? 'WHERE live = 1' : ''} ORDER BY position, id`),
    variants: () =>
      each(
        5,
        `SELECT id, product_id, price, stock, coalesce(was_price > price, 0) FROM variant ORDER BY product_id, position, id`,
      ),
    values: () => each(2, 'SELECT variant_id, value_id FROM variant_value'),
    optionValues: () =>
      each(4, 'SELECT v.id, o.slug, v.slug, v.position FROM option_value v JOIN option o ON o.id = v.option_id'),
    pictures: () =>
      each(
        2,
        `SELECT mv.value_id, count(*) FROM media_value mv JOIN media m ON m.id = mv.media_id
         WHERE m.kind = 'image' GROUP BY mv.value_id`,
      ),
    tags: () => each(2, 'SELECT product_id, tag_id FROM product_tag'),
    categories: () => each(2, 'SELECT product_id, category_id FROM product_category'),
    parents: () => each(2, 'SELECT id, parent_id FROM category'),
  };
}

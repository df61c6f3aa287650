import type { IndexRows } from '@/core/catalogue/index/columns';
import type { Statements } from './statements';

/**
 * The rows that listing indexes are made from. Each list comes as one JSON array a column: for the hundred thousands of rows
 * of a large catalogue that is several times faster than row by row.
 */
export function indexRows(sql: Statements): IndexRows {
  function* each<T extends unknown[]>(columns: number, query: string): Generator<T> {
    const names = Array.from({ length: columns }, (_, at) => `c${at + 1}`);
    const lists = names.map((name) => `json_group_array(${name}) AS ${name}`).join(', ');
    const row = sql.get<Record<string, string>>(
      `WITH found(${names.join(', ')}) AS (${query}) SELECT ${lists} FROM found`,
    );
    const read = names.map((name) => JSON.parse(row?.[name] ?? '[]') as unknown[]);
    const length = read[0]?.length ?? 0;
    for (let at = 0; at < length; at++) yield read.map((list) => list[at]) as T;
  }
  return {
    products: () => each(4, 'SELECT id, type, brand_id, added FROM product ORDER BY position, id'),
    variants: () => each(4, 'SELECT id, product_id, price, stock FROM variant ORDER BY product_id, position, id'),
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

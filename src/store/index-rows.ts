import type { IndexRows } from '@/core/catalogue/index/listing-index';
import type { Statements } from './statements';

/** The rows that a listing index is made from, read one by one: a large catalogue is never in memory as objects. */
export function indexRows({ db }: Statements): IndexRows {
  const each = <T>(sql: string, ...values: unknown[]): Iterable<T> =>
    db
      .prepare(sql)
      .raw()
      .iterate(...values) as Iterable<T>;
  return {
    products: () => each('SELECT id, type, brand_id, added FROM product ORDER BY position, id'),
    variants: () => each('SELECT id, product_id, price, stock FROM variant ORDER BY product_id, position, id'),
    values: () =>
      each(
        `SELECT vv.variant_id, o.slug, v.slug, v.position FROM variant_value vv
         JOIN option_value v ON v.id = vv.value_id JOIN option o ON o.id = v.option_id`,
      ),
    pictures: (option) =>
      each(
        `SELECT m.owner_id, v.slug, count(*) FROM media m JOIN media_value mv ON mv.media_id = m.id
         JOIN option_value v ON v.id = mv.value_id JOIN option o ON o.id = v.option_id
         WHERE m.owner = 'product' AND m.kind = 'image' AND o.slug = ? GROUP BY m.owner_id, v.slug`,
        option,
      ),
    tags: () => each('SELECT product_id, tag_id FROM product_tag'),
    categories: () => each('SELECT product_id, category_id FROM product_category'),
    parents: () => each('SELECT id, parent_id FROM category'),
  };
}

import type { Statements } from './statements';

/** Slugs of the products that have a tag, in the catalogue's order. */
export const productsOfTag = (sql: Statements, slug: string): string[] =>
  sql
    .all<{ slug: string }>(
      `SELECT p.slug FROM product_tag pt JOIN tag t ON t.id = pt.tag_id JOIN product p ON p.id = pt.product_id
       WHERE t.slug = ? ORDER BY p.position, p.id`,
      slug,
    )
    .map(({ slug: product }) => product);

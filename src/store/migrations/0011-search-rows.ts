/**
 * A product's rows of the search are found by their numbers, which were any before: a search in full text keeps no index of other columns, and was
 * gone through whole for each product that changed. A hundred numbers a product, the first for its first language.
 */
export const searchRows = `
CREATE TEMP TABLE searched AS
  SELECT name, tags, sku, summary, product_id, locale,
    product_id * 100 + row_number() OVER (PARTITION BY product_id ORDER BY rowid) - 1 AS number FROM product_search;
DELETE FROM product_search;
INSERT INTO product_search (rowid, name, tags, sku, summary, product_id, locale)
  SELECT number, name, tags, sku, summary, product_id, locale FROM searched;
DROP TABLE searched;
`;

import type { Statements } from './statements';

/** Kinds of record that are few, and listed whole: all but products and pictures. */
export const listedKinds = ['category', 'tag', 'brand', 'field', 'content', 'article', 'menu', 'redirect'] as const;
export type ListedKind = (typeof listedKinds)[number];

/** A record as a list of its kind shows it. */
export interface ListedRecord {
  slug: string;
  name: string;
  /** What tells it from others: the type of a field, the day of an article. */
  note: string;
  /** Of a category: the one that it stands below. */
  parent: string | null;
  /** How many products have it; of a custom field, how many subjects; of a menu, how many links. null: nothing is counted. */
  count: number | null;
}

const queries: Record<ListedKind, string> = {
  category: `SELECT c.slug, c.name, iif(c.live, '', 'not live yet') AS note, p.slug AS parent, c.product_count AS count
    FROM category c LEFT JOIN category p ON p.id = c.parent_id ORDER BY c.position, c.id`,
  tag: `SELECT t.slug, t.name, '' AS note, NULL AS parent, (SELECT count(*) FROM product_tag WHERE tag_id = t.id) AS count
    FROM tag t ORDER BY t.name COLLATE NOCASE`,
  brand: `SELECT b.slug, b.name, b.summary AS note, NULL AS parent, (SELECT count(*) FROM product WHERE brand_id = b.id) AS count
    FROM brand b ORDER BY b.name COLLATE NOCASE`,
  field: `SELECT d.subject || ' ' || d.key AS slug, d.name,
      d.subject || ' · ' || d.type || CASE d.unit WHEN '' THEN '' ELSE ', ' || d.unit END AS note, NULL AS parent,
      (SELECT count(*) FROM field_value v WHERE v.definition_id = d.id AND v.value <> '') AS count
    FROM field_definition d ORDER BY d.subject DESC, d.position, d.id`,
  content: `SELECT slug, title AS name, iif(live, slug, 'not live yet') AS note, NULL AS parent, NULL AS count FROM content ORDER BY title COLLATE NOCASE`,
  article: `SELECT slug, title AS name, iif(live, added, 'not live yet') AS note, NULL AS parent, NULL AS count FROM article ORDER BY added DESC, id DESC`,
  menu: `SELECT m.slug, m.name, m.slug AS note, NULL AS parent, (SELECT count(*) FROM menu_item WHERE menu_id = m.id) AS count
    FROM menu m ORDER BY m.name COLLATE NOCASE`,
  redirect: `SELECT path AS slug, path AS name, target AS note, NULL AS parent, NULL AS count FROM redirect ORDER BY path`,
};

/** All records of a kind, in the order in which they are listed. */
export const listedRecords = (sql: Statements, kind: ListedKind): ListedRecord[] => sql.all(queries[kind]);

const having: Record<string, string> = {
  tag: 'SELECT count(*) AS n FROM product_tag WHERE tag_id = (SELECT id FROM tag WHERE slug = ?)',
  brand: 'SELECT count(*) AS n FROM product WHERE brand_id = (SELECT id FROM brand WHERE slug = ?)',
  category: 'SELECT count(*) AS n FROM product_category WHERE category_id = (SELECT id FROM category WHERE slug = ?)',
  type: 'SELECT count(*) AS n FROM product WHERE type = ?',
  option: 'SELECT count(*) AS n FROM option WHERE slug = ?',
  attribute: 'SELECT count(*) AS n FROM attribute WHERE name = ?',
};

/** How many products have a tag, brand, category, option (by slug), type or attribute (by name); null of what products do not have. */
export const countHaving = (sql: Statements, of: string, value: string): number | null =>
  having[of] === undefined ? null : (sql.get<{ n: number }>(having[of], value)?.n ?? 0);

/** Menus with a link to an address, whatever follows it. */
export const menusTo = (sql: Statements, path: string): { slug: string; name: string }[] =>
  sql.all(
    `SELECT DISTINCT m.slug, m.name FROM menu m JOIN menu_item i ON i.menu_id = m.id
     WHERE i.target = ? OR i.target LIKE ? ESCAPE '!' OR i.target LIKE ? ESCAPE '!' ORDER BY m.name`,
    path,
    ...['?', '#'].map((mark) => `${path.replace(/[!%_]/g, '!$&')}${mark}%`),
  );

const tables: Record<string, string> = {
  product: 'product',
  category: 'category',
  tag: 'tag',
  brand: 'brand',
  field: 'field_definition',
  content: 'content',
  article: 'article',
  menu: 'menu',
  picture: 'media_file',
  redirect: 'redirect',
};

/** How many records there are of each kind. */
export const countRecords = (sql: Statements): Record<string, number> =>
  sql.get<Record<string, number>>(
    `SELECT ${Object.entries(tables)
      .map(([kind, table]) => `(SELECT count(*) FROM ${table}) AS ${kind}`)
      .join(', ')}`,
  ) ?? {};

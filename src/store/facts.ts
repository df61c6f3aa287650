import type { FieldSubject } from '@/core/catalogue';
import { readColumns } from './columns';
import type { Statements } from './statements';

/** Types of products, in order. */
export function productTypes(sql: Statements): string[] {
  const rows = sql.all<{ type: string }>("SELECT DISTINCT type FROM product WHERE type <> '' ORDER BY type");
  return rows.map(({ type }) => type);
}

/** Slugs of the options of products, in order. */
export function optionSlugs(sql: Statements): string[] {
  return sql.all<{ slug: string }>('SELECT DISTINCT slug FROM option ORDER BY slug').map(({ slug }) => slug);
}

/** The type of a product; null where there is no such product. */
export function typeOfProduct(sql: Statements, slug: string): string | null {
  return sql.get<{ type: string }>('SELECT type FROM product WHERE slug = ?', slug)?.type ?? null;
}

/** Names of attributes, in order. */
export function attributeNames(sql: Statements): string[] {
  return sql.all<{ name: string }>('SELECT DISTINCT name FROM attribute ORDER BY name').map(({ name }) => name);
}

/** Values of an attribute, in order, at most `limit`. */
export function attributeValues(sql: Statements, name: string, limit: number): string[] {
  const query = 'SELECT DISTINCT value FROM attribute WHERE name = ? ORDER BY value LIMIT ?';
  return sql.all<{ value: string }>(query, name, limit).map(({ value }) => value);
}

/** Values of a custom field, in order, at most `limit`. */
export function fieldValues(sql: Statements, subject: FieldSubject, key: string, limit: number): string[] {
  const rows = sql.all<{ value: string }>(
    `SELECT DISTINCT v.value FROM field_value v JOIN field_definition d ON d.id = v.definition_id
     WHERE d.subject = ? AND d.key = ? AND v.value <> '' ORDER BY v.value LIMIT ?`,
    subject,
    key,
    limit,
  );
  return rows.map(({ value }) => value);
}

/** Each value of a custom field, with the slug of what has it. */
export function* eachFieldValue(
  sql: Statements,
  subject: FieldSubject,
  key: string,
): Generator<{ slug: string; value: string }> {
  const query = sql.db.prepare<[string, string], { slug: string; value: string }>(
    `SELECT s.slug, v.value FROM field_value v JOIN field_definition d ON d.id = v.definition_id
     JOIN ${subject} s ON s.id = v.subject_id
     WHERE d.subject = ? AND d.key = ? AND v.value <> '' ORDER BY s.slug`,
  );
  yield* query.iterate(subject, key);
}

/** The catalogue's revision, and the last one (`whole`) that may have changed anything, not single products alone. */
export function catalogueState(sql: Statements): { revision: number; whole: number } {
  return sql.get<{ revision: number; whole: number }>('SELECT revision, whole FROM catalogue_state') as {
    revision: number;
    whole: number;
  };
}

/** Says that the catalogue is at a revision: for what is rolled back only. */
export const setRevision = (sql: Statements, revision: number): void =>
  void sql.run('UPDATE catalogue_state SET revision = ?', revision);

/** Numbers of products that changed after a revision, at most `limit`. */
export function changedProducts(sql: Statements, revision: number, limit: number): number[] {
  return sql
    .all<{ id: number }>('SELECT id FROM product WHERE revision > ? LIMIT ?', revision, limit)
    .map(({ id }) => id);
}

/** Of more products than this it is not said one by one that they have changed. */
const maxChanged = 20_000;

/** Which products have changed since a revision; null: too many, or more than products one by one. */
export function changedSince(sql: Statements, since: number): number[] | null {
  if (catalogueState(sql).whole > since) return null;
  const ids = changedProducts(sql, since, maxChanged + 1);
  return ids.length > maxChanged ? null : ids;
}

/** Whether a shop was filled in. */
export const hasShop = (sql: Statements): boolean => sql.get('SELECT 1 FROM shop') !== undefined;

/** Letters and digits of a text, as the search of products splits it. */
const wordsIn = (text: string): string[] =>
  text
    .normalize('NFC')
    .match(/[\p{L}\p{M}\p{N}]+/gu)
    ?.slice(0, 12) ?? [];

/** Slugs of the products that have a product among what goes with them, or among what they hold. */
export const productsNaming = (sql: Statements, slug: string): string[] =>
  sql
    .all<{ slug: string }>(
      `SELECT DISTINCT p.slug FROM product one JOIN (
         SELECT product_id, related_id AS named FROM product_related UNION ALL SELECT product_id, member_id FROM product_member
       ) AS pair ON pair.named = one.id JOIN product p ON p.id = pair.product_id WHERE one.slug = ? ORDER BY p.slug`,
      slug,
    )
    .map((row) => row.slug);

/** Numbers of products, in order. */
export const productIds = (sql: Statements): number[] =>
  readColumns(sql, 1, 'SELECT id FROM product ORDER BY id')[0] as number[];

/** Numbers of products that a text finds by name, article number, tag, summary, slug, or the value of a custom field or attribute. */
export function productsFound(sql: Statements, text: string): number[] {
  const words = wordsIn(text);
  if (!words.length) return [];
  const like = `%${text.trim().replace(/[!%_]/g, '!$&')}%`;
  const [found = []] = readColumns(
    sql,
    1,
    `SELECT product_id FROM product_search WHERE product_search MATCH ?
     UNION SELECT id FROM product WHERE slug LIKE ? ESCAPE '!'
     UNION SELECT subject_id FROM field_value WHERE value LIKE ? ESCAPE '!'
       AND definition_id IN (SELECT id FROM field_definition WHERE subject = 'product')
     UNION SELECT product_id FROM attribute WHERE value LIKE ? ESCAPE '!'`,
    words.map((word) => `"${word}"*`).join(' '),
    ...[like, like, like],
  );
  return found as number[];
}

/** How many products have something in a part that is no column of theirs. */
const partsOfProducts: Record<string, string> = {
  tags: 'SELECT count(DISTINCT product_id) AS n FROM product_tag',
  categories: 'SELECT count(DISTINCT product_id) AS n FROM product_category',
  attributes: 'SELECT count(DISTINCT product_id) AS n FROM attribute',
  options: 'SELECT count(DISTINCT product_id) AS n FROM option',
  variants: 'SELECT count(DISTINCT product_id) AS n FROM variant',
  members: 'SELECT count(DISTINCT product_id) AS n FROM product_member',
  related: 'SELECT count(DISTINCT product_id) AS n FROM product_related',
  brand: 'SELECT count(*) AS n FROM product WHERE brand_id IS NOT NULL',
};
/** Columns of records that are texts, by the kind's table. */
const textColumns: Record<string, readonly string[]> = {
  product: ['type', 'name', 'summary', 'description', 'sku', 'gtin', 'added'],
  category: ['name', 'summary', 'description'],
  content: ['title', 'summary', 'body', 'added'],
  article: ['title', 'summary', 'body', 'added'],
  tag: ['name'],
  brand: ['name', 'summary'],
  shop: ['name', 'email'],
};

/** How many records of a kind there are, and how many have something in a part; of a custom field `fields.lead_time`. */
export function partCounts(sql: Statements, kind: string, part: string): { all: number; filled: number } {
  const columns = textColumns[kind];
  if (!columns) return { all: 0, filled: 0 };
  const count = (query: string, ...values: string[]) => sql.get<{ n: number }>(query, ...values)?.n ?? 0;
  const all = count(`SELECT count(*) AS n FROM ${kind}`);
  const filled = () => {
    if (part.startsWith('fields.'))
      return count(
        `SELECT count(*) AS n FROM field_definition d JOIN field_value v ON v.definition_id = d.id
         WHERE d.subject = ? AND d.key = ? AND v.value <> ''`,
        kind,
        part.slice('fields.'.length),
      );
    if (part === 'media') return count('SELECT count(DISTINCT owner_id) AS n FROM media WHERE owner = ?', kind);
    if (columns.includes(part)) return count(`SELECT count(*) AS n FROM ${kind} WHERE ${part} <> ''`);
    if (kind === 'category' && part === 'parent')
      return count('SELECT count(*) AS n FROM category WHERE parent_id IS NOT NULL');
    const other = kind === 'product' ? partsOfProducts[part] : undefined;
    return other ? count(other) : all;
  };
  return { all, filled: filled() };
}

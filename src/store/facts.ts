import type { FieldSubject } from '@/core/catalogue';
import type { Statements } from './statements';

/** Types of products, in order. */
export function productTypes(sql: Statements): string[] {
  const rows = sql.all<{ type: string }>("SELECT DISTINCT type FROM product WHERE type <> '' ORDER BY type");
  return rows.map(({ type }) => type);
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

/** The catalogue's revision, and the last one (`whole`) that may have changed anything, not single products alone. */
export function catalogueState(sql: Statements): { revision: number; whole: number } {
  return sql.get<{ revision: number; whole: number }>('SELECT revision, whole FROM catalogue_state') as {
    revision: number;
    whole: number;
  };
}

/** Numbers of products that changed after a revision, at most `limit`. */
export function changedProducts(sql: Statements, revision: number, limit: number): number[] {
  return sql
    .all<{ id: number }>('SELECT id FROM product WHERE revision > ? LIMIT ?', revision, limit)
    .map(({ id }) => id);
}

/** Whether a shop was filled in. */
export const hasShop = (sql: Statements): boolean => sql.get('SELECT 1 FROM shop') !== undefined;

import type { Hash } from 'node:crypto';
import type { Db } from './database';

/** Tables of the catalogue, whole: those that others refer to first. */
export const catalogueTables = [
  ...['shop', 'brand', 'tag', 'category', 'field_definition', 'product', 'product_category', 'product_member'],
  ...['product_related', 'product_tag', 'attribute', 'option', 'option_value', 'variant', 'variant_value'],
  ...['content', 'article', 'menu', 'menu_item', 'field_value', 'media', 'media_value', 'media_file', 'media_content'],
  ...['translation', 'redirect', 'product_search'],
] as const;

export type Row = Record<string, unknown>;

/** Columns of a table, and those of its key in their order: the index of words has none but the number of a row. */
export function columnsOf(db: Db, table: string): { names: string[]; key: string[] } {
  const columns = db.pragma(`table_info(${table})`) as { name: string; pk: number }[];
  const names = columns.map(({ name }) => name);
  if (table === 'product_search') return { names: ['rowid', ...names], key: ['rowid'] };
  const key = columns.filter(({ pk }) => pk > 0).sort((a, b) => a.pk - b.pk);
  return { names, key: key.map(({ name }) => name) };
}

/** All rows of a table, in the order of its key; where it has none, in that of all its columns. */
export function everything(db: Db, table: string): string {
  const { names, key } = columnsOf(db, table);
  return `SELECT ${names.join(', ')} FROM ${table} ORDER BY ${(key.length ? key : names).join(', ')}`;
}

/** Each value with its kind and length, so that no two rows read alike. */
export function hashRow(hash: Hash, values: readonly unknown[]): void {
  let text = '';
  for (const value of values) {
    if (Buffer.isBuffer(value)) {
      hash.update(`${text}b${value.length}:`);
      hash.update(value);
      text = '';
    } else if (value === null) text += 'n;';
    else text += typeof value === 'string' ? `t${value.length}:${value}` : `i${String(value)};`;
  }
  hash.update(`${text}\n`);
}

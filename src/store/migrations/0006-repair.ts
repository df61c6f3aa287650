import type { Db } from '../database';

/**
 * Two migrations were changed after data had been written by them: what that data lacks is added. Migrations are not changed
 * any more (migrations.test.ts holds each to its hash).
 */
export function repair(db: Db): void {
  const add = (table: string, column: string, type: string) => {
    const columns = db.pragma(`table_info(${table})`) as { name: string }[];
    if (!columns.some(({ name }) => name === column)) db.exec(`ALTER TABLE ${table} ADD COLUMN ${column} ${type}`);
  };
  add('cart_line', 'checked', "TEXT NOT NULL DEFAULT ''");
  add('change', 'together', 'TEXT');
}

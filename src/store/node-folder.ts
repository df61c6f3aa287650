import Database from 'better-sqlite3';
import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { DataFolderError, tune, type Db } from './database';
import { openDatabase } from './open';
import { releaseFault } from './release-file';

/** What a render node keeps of its own: the carts of its visitors. The shop itself it only reads. */
const cartTables = ['cart', 'cart_line', 'outbox'];

/**
 * Makes a folder a render node's, and sees that a release file can be served. Carts that are there stay.
 *
 * @throws DataFolderError when the file cannot be used, or the folder belongs to a shop
 */
export function prepareNode(folder: string, release: string): void {
  const wrong = releaseFault(release);
  if (wrong) throw new DataFolderError(`${release} cannot be used: ${wrong}.`);
  if (existsSync(join(folder, 'last.sqlite')))
    throw new DataFolderError(`${folder} is the data folder of a shop: give the node another.`);
  mkdirSync(folder, { recursive: true });
}

/** The database of a node's carts, made where there is none. */
export function openCarts(folder: string): Db {
  const db = new Database(join(folder, 'carts.sqlite'));
  db.pragma('journal_mode = WAL');
  db.pragma('foreign_keys = ON');
  tune(db);
  const made = openDatabase(':memory:');
  const sql = `SELECT sql FROM sqlite_schema WHERE sql IS NOT NULL AND tbl_name IN (${cartTables.map(() => '?').join(', ')}) ORDER BY rowid`;
  const statements = made
    .prepare(sql)
    .pluck()
    .all(...cartTables) as string[];
  made.close();
  // Several nodes may begin at once.
  db.transaction(() => {
    for (const one of statements) db.exec(one.replace(/^CREATE (TABLE|INDEX) /, 'CREATE $1 IF NOT EXISTS '));
  }).immediate();
  return db;
}

import Database from 'better-sqlite3';
import { existsSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { databaseFile, DataFolderError, readyFolder, tune, type Db } from './database';
import { catalogue } from './migrations/0001-catalogue';
import { theme } from './migrations/0002-theme';
import { shopping } from './migrations/0003-shopping';
import { history } from './migrations/0004-history';
import { changes } from './migrations/0005-changes';
import { repair } from './migrations/0006-repair';
import { errorPages } from './migrations/0007-error-pages';
import { limits } from './migrations/0008-limits';
import { goods } from './migrations/0009-goods';
import { pictures } from './migrations/0010-pictures';
import { searchRows } from './migrations/0011-search-rows';
import { redirects } from './migrations/0012-redirects';
import { notLive } from './migrations/0013-not-live';
import { fieldKinds } from './migrations/0014-field-kinds';
import { accounts } from './migrations/0015-accounts';
import { reviews } from './migrations/0016-reviews';
import { comments } from './migrations/0017-comments';
import { settings } from './migrations/0018-settings';
import { closedDrafts } from './migrations/0019-closed-drafts';
import { changedRows } from './migrations/0020-changed-rows';
import { orders } from './migrations/0021-orders';
import { feed } from './migrations/0022-feed';
import { orderHolds } from './migrations/0023-order-holds';

/** In the order in which they are applied; one that has landed is never changed (migrations.test.ts). */
const migrations: (string | ((db: Db) => void))[] = [
  catalogue,
  theme,
  shopping,
  history,
  changes,
  repair,
  errorPages,
  limits,
  goods,
  pictures,
  searchRows,
  redirects,
  notLive,
  fieldKinds,
  accounts,
  reviews,
  comments,
  settings,
  closedDrafts,
  changedRows,
  orders,
  feed,
  orderHolds,
];

/** Version of the data that this Last writes. */
export const dataVersion = migrations.length;

/** Opens the database of a data folder, made and brought up to date when it is not. `:memory:` keeps nothing. */
export function openDatabase(folder: string): Db {
  let file = folder;
  if (folder !== ':memory:') {
    readyFolder(folder);
    file = databaseFile(folder);
  }
  let db: Db;
  try {
    db = new Database(file);
    db.pragma('journal_mode = WAL');
  } catch (error) {
    throw new DataFolderError(`The database ${file} cannot be opened: ${(error as Error).message}.`);
  }
  db.pragma('foreign_keys = ON');
  // What was answered with “saved” is on the disk.
  db.pragma('synchronous = FULL');
  tune(db);
  migrate(db, folder);
  return db;
}

/** Brings a copy of a database up to date, as one file with nothing beside it. */
export function bringUpToDate(file: string): void {
  const db = new Database(file);
  try {
    db.pragma('foreign_keys = ON');
    migrate(db, ':memory:');
    db.pragma('journal_mode = DELETE');
  } finally {
    db.close();
  }
}

/** Applies the migrations that a database has not had yet, each in a transaction with the mark that it was; before, a copy is made. */
function migrate(db: Db, folder: string): void {
  const done = db.pragma('user_version', { simple: true }) as number;
  if (done > dataVersion) {
    db.close();
    throw new DataFolderError('The data folder was written by a newer Last: use that one, or another folder.');
  }
  if (done > 0 && done < dataVersion && folder !== ':memory:') copyBefore(db, folder, done);
  for (let at = done; at < dataVersion; at++) {
    db.transaction(() => {
      const migration = migrations[at] as (typeof migrations)[number];
      if (typeof migration === 'string') db.exec(migration);
      else migration(db);
      db.pragma(`user_version = ${at + 1}`);
    }).immediate();
  }
}

/** Keeps the data as it is before it is brought up to date: `last.before-6.sqlite`, which `last restore` takes. */
function copyBefore(db: Db, folder: string, version: number): void {
  const file = join(folder, `last.before-${version + 1}.sqlite`);
  if (existsSync(file)) return;
  const part = `${file}.part`;
  try {
    rmSync(part, { force: true });
    db.prepare('VACUUM INTO ?').run(part);
    renameSync(part, file);
  } catch (error) {
    rmSync(part, { force: true });
    db.close();
    throw new DataFolderError(
      `The data of ${folder} is to be brought up to date, but no copy of it can be made before: ${(error as Error).message}. Make room on the disk, then start again.`,
    );
  }
}

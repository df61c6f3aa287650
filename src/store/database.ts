import Database from 'better-sqlite3';
import { accessSync, constants, mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { catalogue } from './migrations/0001-catalogue';
import { theme } from './migrations/0002-theme';
import { shopping } from './migrations/0003-shopping';
import { history } from './migrations/0004-history';
import { changes } from './migrations/0005-changes';

export type Db = Database.Database;

/** In the order in which they are applied; one that was released is never changed. */
const migrations = [catalogue, theme, shopping, history, changes];

/** The folder that holds a shop's data: `LAST_DATA`, else `data` beside the program. */
export function dataFolder(): string {
  return resolve(/* turbopackIgnore: true */ process.env.LAST_DATA || 'data');
}

/** A sentence for people when the data folder cannot be used; it names the folder and what to do. */
export class DataFolderError extends Error {}

/** Opens the database of a data folder that another connection made, for reading only. */
export function openForReading(folder: string): Db {
  const db = new Database(join(folder, 'last.sqlite'), { readonly: true, fileMustExist: true });
  tune(db);
  return db;
}

/** Opens the database of a data folder, made and brought up to date when it is not. `:memory:` keeps nothing. */
export function openDatabase(folder: string): Db {
  let file = folder;
  if (folder !== ':memory:') {
    try {
      mkdirSync(folder, { recursive: true });
      accessSync(folder, constants.W_OK | constants.X_OK);
    } catch (error) {
      const why =
        (error as NodeJS.ErrnoException).code === 'EACCES'
          ? 'this account may not write there'
          : String((error as Error).message);
      throw new DataFolderError(
        `The data folder ${folder} cannot be written: ${why}. Give LAST_DATA another folder, or change its rights.`,
      );
    }
    file = join(folder, 'last.sqlite');
  }
  let db: Db;
  try {
    db = new Database(file);
    db.pragma('journal_mode = WAL');
  } catch (error) {
    throw new DataFolderError(`The database ${file} cannot be opened: ${(error as Error).message}.`);
  }
  db.pragma('foreign_keys = ON');
  db.pragma('synchronous = NORMAL');
  tune(db);
  migrate(db);
  return db;
}

function tune(db: Db): void {
  db.pragma('busy_timeout = 5000');
  // A large catalogue is read through the system's memory instead of being copied page by page.
  db.pragma('mmap_size = 1073741824');
  db.pragma('cache_size = -32000');
}

/** Applies the migrations that a database has not had yet, each in a transaction with the mark that it was. */
function migrate(db: Db): void {
  const done = db.pragma('user_version', { simple: true }) as number;
  if (done > migrations.length) {
    throw new DataFolderError('The data folder was written by a newer Last: use that one, or another folder.');
  }
  for (let at = done; at < migrations.length; at++) {
    db.transaction(() => {
      db.exec(migrations[at] as string);
      db.pragma(`user_version = ${at + 1}`);
    }).immediate();
  }
}

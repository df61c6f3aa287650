import Database from 'better-sqlite3';
import { accessSync, constants, existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { catalogue } from './migrations/0001-catalogue';
import { theme } from './migrations/0002-theme';
import { shopping } from './migrations/0003-shopping';
import { history } from './migrations/0004-history';
import { changes } from './migrations/0005-changes';
import { repair } from './migrations/0006-repair';
import { errorPages } from './migrations/0007-error-pages';
import { limits } from './migrations/0008-limits';

export type Db = Database.Database;

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
];

/** Version of the data that this Last writes. */
export const dataVersion = migrations.length;

/** The database of a data folder. */
export const databaseFile = (folder: string): string => join(folder, 'last.sqlite');

/** The folder that holds a shop's data: `LAST_DATA`, else `data` beside the program. */
export function dataFolder(): string {
  return resolve(/* turbopackIgnore: true */ process.env.LAST_DATA || 'data');
}

/** A sentence for people when the data folder cannot be used; it names the folder and what to do. */
export class DataFolderError extends Error {
  override readonly name: string = 'DataFolderError';
}

/** Whether an error of the database says that nothing can be written: a full disk, a folder without rights, a broken disk. */
export function isUnwritable(error: unknown): boolean {
  const code = (error as { code?: unknown } | null)?.code;
  return typeof code === 'string' && /^SQLITE_(?:FULL|READONLY|IOERR|CANTOPEN)/.test(code);
}

/** Opens the database of a data folder that another connection made, for reading only. */
export function openForReading(folder: string): Db {
  const db = new Database(databaseFile(folder), { readonly: true, fileMustExist: true });
  tune(db);
  return db;
}

/** Makes a data folder where there is none, and says what keeps it from being written to. */
export function readyFolder(folder: string): void {
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
}

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

function tune(db: Db): void {
  db.pragma('busy_timeout = 5000');
  // Not through memory maps: a file that someone truncates would end the process at the next read.
  db.pragma('mmap_size = 0');
  db.pragma('cache_size = -32000');
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

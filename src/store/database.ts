import Database from 'better-sqlite3';
import { accessSync, constants, mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';

export type Db = Database.Database;

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

/** How each connection works. */
export function tune(db: Db): void {
  db.pragma('busy_timeout = 5000');
  // Not through memory maps: a file that someone truncates would end the process at the next read.
  db.pragma('mmap_size = 0');
  db.pragma('cache_size = -32000');
}

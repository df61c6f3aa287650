import Database from 'better-sqlite3';
import {
  closeSync,
  copyFileSync,
  existsSync,
  fsyncSync,
  linkSync,
  openSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { setTimeout } from 'node:timers/promises';
import { databaseFile, DataFolderError, openForReading } from './database';
import { bringUpToDate, dataVersion } from './open';

/** Pages of the database that are copied without a pause: all. Only the process that copies waits. */
const allPages = 1_000_000_000;

/**
 * Writes a copy of a data folder's database to a file, while it is in use: SQLite's own backup, checked before it takes the
 * place of what stood there. Gives its size in bytes.
 *
 * @throws DataFolderError with what to do; nothing is left of a copy that failed
 */
export async function backUp(folder: string, file: string): Promise<number> {
  if (!existsSync(databaseFile(folder))) throw new DataFolderError(`There is no shop in ${folder} to back up.`);
  const part = `${file}.part`;
  const source = openForReading(folder);
  try {
    discard(part);
    await source.backup(part, { progress: () => allPages });
    const wrong = faultOf(part);
    if (wrong) throw new Error(wrong);
    settle(part);
    renameSync(part, file);
    discard(part);
    return statSync(file).size;
  } catch (error) {
    discard(part);
    throw new DataFolderError(
      `The backup ${file} could not be written: ${(error as Error).message}. Nothing was kept of it.`,
    );
  } finally {
    source.close();
  }
}

/**
 * Replaces a data folder's database with a backup. The old one is kept beside it, under the name that is returned (null: there
 * was none). The caller holds the folder (owner.ts), and nobody has the database open.
 *
 * @throws DataFolderError when the file is not a whole backup of this version or an older one; then nothing is changed
 */
export function restore(folder: string, file: string, now: string): string | null {
  mustBeWhole(file);
  const target = databaseFile(folder);
  const fresh = `${target}.new`;
  let before: string | null = null;
  try {
    rmSync(fresh, { force: true });
    copyFileSync(file, fresh);
    settle(fresh);
    if (existsSync(target)) {
      before = keptName(target, now);
      fold(target);
      linkSync(target, before);
      // What could not be folded in belongs to the kept one.
      for (const rest of ['-wal', '-shm']) if (existsSync(target + rest)) renameSync(target + rest, before + rest);
    }
    renameSync(fresh, target);
    return before;
  } catch (error) {
    discard(fresh);
    throw notRestored(file, error);
  }
}

/**
 * The same for a database that this process has open, and others may be reading. The backup replaces it in one transaction:
 * readers see the old data or the new. Gives the name of the kept copy.
 *
 * @throws DataFolderError as above
 */
export async function restoreInUse(folder: string, file: string, now: string): Promise<string> {
  mustBeWhole(file);
  const target = databaseFile(folder);
  const fresh = `${target}.new`;
  const before = keptName(target, now);
  try {
    discard(fresh);
    copyFileSync(file, fresh);
    bringUpToDate(fresh);
    await backUp(folder, before);
    const source = new Database(fresh, { readonly: true });
    try {
      await source.backup(target, { progress: () => allPages });
    } finally {
      source.close();
    }
  } catch (error) {
    throw notRestored(file, error);
  } finally {
    discard(fresh);
  }
  await tidy(target);
  return before;
}

/** Shrinks the file to what it holds now: if it shrank later, watch.ts would take it for one that was cut short. */
async function tidy(target: string): Promise<void> {
  const db = new Database(target, { timeout: 50 });
  try {
    // Who still reads what was there keeps it from that, for as long as a page takes.
    for (let tries = 0; tries < 200; tries++) {
      const [{ busy }] = db.pragma('wal_checkpoint(TRUNCATE)') as [{ busy: number }];
      if (!busy) return;
      await setTimeout(50);
    }
  } catch {
    // The backup is restored all the same.
  } finally {
    db.close();
  }
}

/** @throws DataFolderError when a file is not a backup that can be restored */
function mustBeWhole(file: string): void {
  if (!existsSync(file)) throw new DataFolderError(`There is no file ${file}.`);
  const wrong = faultOf(file);
  if (wrong) throw new DataFolderError(`${file} cannot be restored: ${wrong}. The data is as it was.`);
}

const notRestored = (file: string, error: unknown): DataFolderError =>
  new DataFolderError(`${file} could not be restored: ${(error as Error).message}. The data is as it was.`);

/** Where what stood there is kept: beside it, under a name of its own. */
function keptName(target: string, now: string): string {
  const name = `${target.replace(/\.sqlite$/, '')}.before-restore-${now.replace(/[^0-9]/g, '').slice(0, 14)}`;
  let kept = `${name}.sqlite`;
  for (let at = 2; existsSync(kept); at++) kept = `${name}-${at}.sqlite`;
  return kept;
}

/** Brings what stands in the log into the database; one that cannot be opened stays as it is. */
function fold(file: string): void {
  try {
    const db = new Database(file);
    db.pragma('wal_checkpoint(TRUNCATE)');
    db.close();
  } catch {
    // It is kept as it was found.
  }
}

/** What keeps a file from being a shop's database that this Last can read: a sentence, or null. */
export function faultOf(file: string): string | null {
  let db: Database.Database;
  try {
    db = new Database(file, { readonly: true, fileMustExist: true });
  } catch (error) {
    return (error as Error).message;
  }
  try {
    const [first] = db.pragma('integrity_check(1)') as { integrity_check: string }[];
    if (first?.integrity_check !== 'ok') return `it is damaged (${first?.integrity_check ?? 'unreadable'})`;
    const version = db.pragma('user_version', { simple: true }) as number;
    if (version > dataVersion) return 'it was written by a newer Last';
    const tables = db.prepare("SELECT name FROM sqlite_schema WHERE name IN ('shop', 'state', 'layer')").all();
    return version < 1 || tables.length < 3 ? 'it holds no shop' : null;
  } catch (error) {
    return (error as Error).message;
  } finally {
    db.close();
  }
}

/** Removes what was begun, if anything was, with what SQLite puts beside it. */
function discard(file: string): void {
  try {
    for (const rest of ['', '-wal', '-shm', '-journal']) rmSync(file + rest, { force: true });
  } catch {
    // There is no such place.
  }
}

/** Waits until a file's bytes are on the disk. */
function settle(file: string): void {
  const open = openSync(file, 'r');
  try {
    fsyncSync(open);
  } finally {
    closeSync(open);
  }
}

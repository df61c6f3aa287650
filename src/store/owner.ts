import Database from 'better-sqlite3';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { DataFolderError, readyFolder } from './database';

/** Who writes in a data folder. */
export interface Owner {
  pid: number;
  /** `the server`, `last seed`. */
  what: string;
  /** ISO 8601. */
  since: string;
}

/** Another process writes in the data folder. */
export class FolderTaken extends DataFolderError {
  constructor(
    folder: string,
    readonly owner: Owner | null,
  ) {
    const who = owner
      ? `${owner.what} (process ${owner.pid}, since ${owner.since.slice(0, 16).replace('T', ' ')} UTC)`
      : 'another process';
    super(`The data folder ${folder} is in use by ${who}: end that first, or give LAST_DATA another folder.`);
  }
}

/** Locks of this process: one that nobody knows any more would be closed, and let go, with the next collection of garbage. */
const held = new Set<Database.Database>();

/**
 * Makes this process the one that writes in a data folder, until the function that comes back is called or the process ends,
 * however it ends: the lock is SQLite's on a file of its own, which the system removes with the process.
 *
 * @throws FolderTaken when another process has it
 */
export function takeFolder(folder: string, what: string): () => void {
  readyFolder(folder);
  const note = join(folder, 'owner.json');
  let lock: Database.Database;
  try {
    lock = new Database(join(folder, 'owner.lock'), { timeout: 200 });
    lock.pragma('locking_mode = EXCLUSIVE');
    lock.exec('BEGIN EXCLUSIVE; CREATE TABLE IF NOT EXISTS owner (pid INTEGER); DELETE FROM owner');
    lock.prepare('INSERT INTO owner VALUES (?)').run(process.pid);
    lock.exec('COMMIT');
  } catch (error) {
    if ((error as { code?: string }).code?.startsWith('SQLITE_BUSY')) throw new FolderTaken(folder, readOwner(note));
    throw new DataFolderError(`The data folder ${folder} cannot be locked: ${(error as Error).message}.`);
  }
  const owner: Owner = { pid: process.pid, what, since: new Date().toISOString() };
  writeFileSync(note, `${JSON.stringify(owner)}\n`);
  held.add(lock);
  return () => {
    held.delete(lock);
    lock.close();
  };
}

function readOwner(file: string): Owner | null {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Owner;
  } catch {
    return null;
  }
}

import Database from 'better-sqlite3';
import { constants, existsSync, linkSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { copyFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { DataFolderError, tune, type Db } from './database';
import type { Delta } from './delta-file';
import { forgetSearch } from './derived';
import { openReleaseFile } from './release-file';
import { columnsOf } from './rows';
import { Statements } from './statements';

/** The copy that a chain of delta files has brought up to date; without one, a copy that waits for the first. */
const nameOf = (release: string, chain?: string): string =>
  `goods-${release.slice(0, 16)}${chain ? `-${chain}` : ''}.sqlite`;

/** The content of a release file. */
function contentOf(releaseFile: string): string {
  const db = openReleaseFile(releaseFile);
  const content = db.prepare('SELECT content FROM release_file').pluck().get() as string;
  db.close();
  return content;
}

/**
 * A copy of a release file in a node's folder, which delta files bring up to date: the release file itself never changes. Processes of one node share it:
 * the first to see a delta file applies it, and the others see the goods change.
 */
export class WorkingCopy {
  readonly #sql: Statements;

  private constructor(
    readonly file: string,
    db: Db,
    /** The content of the release file that it is a copy of. */
    readonly release: string,
    readonly chain: string,
  ) {
    this.#sql = new Statements(db);
  }

  /** Opens the copy of a release file for a chain of delta files, made where there is none. @throws DataFolderError when it cannot be */
  static async of(folder: string, releaseFile: string, chain: string): Promise<WorkingCopy> {
    const release = contentOf(releaseFile);
    const file = join(folder, nameOf(release, chain));
    try {
      if (!existsSync(file)) {
        await WorkingCopy.prepare(folder, releaseFile);
        try {
          renameSync(join(folder, nameOf(release)), file);
        } catch (error) {
          // Another process was quicker.
          if (!existsSync(file)) throw error;
        }
      }
      return new WorkingCopy(file, openCopy(file), release, chain);
    } catch (error) {
      throw new DataFolderError(`No copy of ${releaseFile} can be kept in ${folder}: ${(error as Error).message}.`);
    }
  }

  /** Has a copy wait for the first delta file, which then is in force at once. */
  static async prepare(folder: string, releaseFile: string): Promise<void> {
    const release = contentOf(releaseFile);
    const file = join(folder, nameOf(release));
    if (!existsSync(file)) await make(releaseFile, file, release);
  }

  /** What was applied last: the release itself is number 0. */
  last(): { number: number; content: string } {
    return this.#sql.get('SELECT number, content FROM applied') as { number: number; content: string };
  }

  /**
   * Brings the goods up to date with the next delta file, all of it or nothing. False: it was applied before.
   *
   * @throws DataFolderError when it belongs to another release, or does not follow what was applied last
   */
  apply(delta: Delta): boolean {
    if (delta.release !== this.release || delta.chain !== this.chain)
      throw new DataFolderError('It belongs to another release.');
    const { db } = this.#sql;
    return db
      .transaction(() => {
        const last = this.last();
        if (delta.number <= last.number) return false;
        if (delta.number > last.number + 1)
          throw new DataFolderError(`It is number ${delta.number}, and number ${last.number + 1} has not come yet.`);
        if (delta.follows !== last.content) throw new DataFolderError('It does not follow the one before it.');
        for (const [table, keys] of delta.parts) this.#remove(table, keys);
        for (const [table, , rows] of delta.parts) {
          const { names } = columnsOf(db, table);
          const put = db.prepare(
            `INSERT INTO ${table} (${names.join(', ')}) VALUES (${names.map(() => '?').join(', ')})`,
          );
          for (const row of rows) put.run(...Object.values(row));
        }
        this.#sql.run('UPDATE catalogue_state SET revision = revision + 1');
        this.#sql.run('UPDATE applied SET number = ?, content = ?', delta.number, delta.content);
        return true;
      })
      .immediate();
  }

  #remove(table: string, keys: string): void {
    if (table === 'product_search')
      return forgetSearch(
        this.#sql,
        (JSON.parse(keys) as [number][]).map(([id]) => id),
      );
    const { key } = columnsOf(this.#sql.db, table);
    const same = key.map((name, at) => `one.value ->> ${at} AS k${at}`).join(', ');
    this.#sql.run(`DELETE FROM ${table} WHERE (${key.join(', ')}) IN (SELECT ${same} FROM json_each(?) AS one)`, keys);
  }

  close(): void {
    this.#sql.db.close();
  }
}

/** Opens a working copy. What refers to what is not looked at: it was where the changes were made. */
export function openCopy(file: string): Db {
  const db = new Database(file, { fileMustExist: true });
  db.pragma('journal_mode = WAL');
  db.pragma('synchronous = NORMAL');
  db.pragma('foreign_keys = OFF');
  tune(db);
  db.prepare('SELECT number FROM applied').get();
  return db;
}

/** Copies a release file; where another process was quicker, its copy stands. */
async function make(releaseFile: string, file: string, release: string): Promise<void> {
  const part = `${file}.${process.pid}.part`;
  try {
    await copyFile(releaseFile, part, constants.COPYFILE_FICLONE);
    const db = new Database(part);
    db.exec('CREATE TABLE applied (number INTEGER NOT NULL, content TEXT NOT NULL) STRICT');
    db.prepare('INSERT INTO applied VALUES (0, ?)').run(release);
    db.close();
    linkSync(part, file);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  } finally {
    rmSync(part, { force: true });
  }
}

/** Removes copies of release files that are served no longer: all but these files, and what waits for a release's first delta file. */
export function removeCopies(folder: string, kept: readonly string[], release: string): void {
  const names = [...kept.map((file) => basename(file)), nameOf(contentOf(release))];
  for (const name of readdirSync(folder))
    if (/^goods-[0-9a-f]{16}/.test(name) && !names.some((one) => name.startsWith(one)))
      rmSync(join(folder, name), { force: true });
}

import Database from 'better-sqlite3';
import { constants, existsSync, linkSync, readdirSync, rmSync } from 'node:fs';
import { copyFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { DataFolderError, tune, type Db } from './database';
import type { Delta } from './delta-file';
import { forgetSearch } from './derived';
import { openReleaseFile } from './release-file';
import { columnsOf, type Row } from './rows';
import { Statements } from './statements';

/** The copy of a release file; where its delta files have started over, the copy for the chain that they make. */
const nameOf = (release: string, chain?: string): string =>
  `goods-${release.slice(0, 16)}${chain ? `-${chain}` : ''}.sqlite`;

/** What was applied to a copy last; the chain that it belongs to is null before the first. */
interface Applied {
  chain: string | null;
  number: number;
  content: string;
}

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
  ) {
    this.#sql = new Statements(db);
  }

  /**
   * Opens the copy of a release file for a chain of delta files, made where there is none.
   *
   * @param chain null: none has come yet. Null is given where the copy there is has been changed by a chain that has ended
   * @throws DataFolderError when it cannot be
   */
  static async of(folder: string, releaseFile: string, chain: string | null): Promise<WorkingCopy | null> {
    const release = contentOf(releaseFile);
    try {
      const first = await WorkingCopy.#open(join(folder, nameOf(release)), releaseFile, release);
      const own = first.last().chain;
      if (own === null || own === chain) return first;
      first.close();
      return chain === null
        ? null
        : await WorkingCopy.#open(join(folder, nameOf(release, chain)), releaseFile, release);
    } catch (error) {
      throw new DataFolderError(`No copy of ${releaseFile} can be kept in ${folder}: ${(error as Error).message}.`);
    }
  }

  static async #open(file: string, releaseFile: string, release: string): Promise<WorkingCopy> {
    if (!existsSync(file)) await make(releaseFile, file, release);
    return new WorkingCopy(file, openCopy(file), release);
  }

  get chain(): string | null {
    return this.last().chain;
  }

  /** What was applied last: the release itself is number 0. */
  last(): Applied {
    return this.#sql.get('SELECT chain, number, content FROM applied') as Applied;
  }

  /**
   * Brings the goods up to date with the next delta file, all of it or nothing. False: it was applied before.
   *
   * @throws DataFolderError when it belongs to another release, or does not follow what was applied last
   */
  apply(delta: Delta): boolean {
    const { db } = this.#sql;
    return db
      .transaction(() => {
        const last = this.last();
        if (delta.release !== this.release || (last.chain !== null && last.chain !== delta.chain))
          throw new DataFolderError('It belongs to another release.');
        if (delta.number <= last.number) return false;
        if (delta.number > last.number + 1)
          throw new DataFolderError(`It is number ${delta.number}, and number ${last.number + 1} has not come yet.`);
        if (delta.follows !== last.content) throw new DataFolderError('It does not follow the one before it.');
        this.#write(delta);
        this.#sql.run('UPDATE catalogue_state SET revision = ?, whole = ?', delta.revision, delta.whole);
        this.#sql.run(
          'UPDATE applied SET chain = ?, number = ?, content = ?',
          delta.chain,
          delta.number,
          delta.content,
        );
        return true;
      })
      .immediate();
  }

  #write({ parts }: Delta): void {
    const { db } = this.#sql;
    try {
      // Most rows keep their keys: changed in their place, only what differs of them is written.
      db.transaction(() => {
        for (const [table, keys, rows] of parts) this.#remove(table, keys, rows);
        for (const [table, , rows] of parts) this.#put(table, rows, true);
      })();
    } catch (error) {
      if ((error as { code?: string }).code !== 'SQLITE_CONSTRAINT_UNIQUE') throw error;
      // Two have changed names with each other.
      for (const [table, keys] of parts) this.#remove(table, keys, []);
      for (const [table, , rows] of parts) this.#put(table, rows, false);
    }
  }

  /** Removes rows by their keys, but those that are put there again; the search's all. */
  #remove(table: string, keys: string, kept: readonly Row[]): void {
    const gone = JSON.parse(keys) as unknown[][];
    if (table === 'product_search')
      return forgetSearch(
        this.#sql,
        gone.map(([id]) => id as number),
      );
    const { key } = columnsOf(this.#sql.db, table);
    const stays = new Set(kept.map((row) => JSON.stringify(key.map((name) => row[name]))));
    const same = key.map((name) => `${name} = ?`).join(' AND ');
    for (const one of gone)
      if (!stays.has(JSON.stringify(one))) this.#sql.run(`DELETE FROM ${table} WHERE ${same}`, ...one);
  }

  #put(table: string, rows: readonly Row[], over: boolean): void {
    const { names, key } = columnsOf(this.#sql.db, table);
    const others = names.filter((name) => !key.includes(name)).map((name) => `${name} = excluded.${name}`);
    const then = others.length ? `UPDATE SET ${others.join(', ')}` : 'NOTHING';
    const conflict = over && table !== 'product_search' ? `ON CONFLICT (${key.join(', ')}) DO ${then}` : '';
    const put = this.#sql.db.prepare(
      `INSERT INTO ${table} (${names.join(', ')}) VALUES (${names.map(() => '?').join(', ')}) ${conflict}`,
    );
    for (const row of rows) put.run(...Object.values(row));
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
    db.exec('CREATE TABLE applied (chain TEXT, number INTEGER NOT NULL, content TEXT NOT NULL) STRICT');
    db.prepare('INSERT INTO applied VALUES (NULL, 0, ?)').run(release);
    db.close();
    linkSync(part, file);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  } finally {
    rmSync(part, { force: true });
  }
}

/** Removes copies of release files that are served no longer: all but these files. */
export function removeCopies(folder: string, kept: readonly string[]): void {
  const names = kept.map((file) => basename(file));
  for (const name of readdirSync(folder))
    if (/^goods-[0-9a-f]{16}/.test(name) && !names.some((one) => name.startsWith(one)))
      rmSync(join(folder, name), { force: true });
}

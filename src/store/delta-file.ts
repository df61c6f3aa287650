import Database from 'better-sqlite3';
import { createHash, randomBytes } from 'node:crypto';
import { closeSync, existsSync, fsyncSync, mkdtempSync, openSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { changedKeys, lastTurn } from './changed-rows';
import { DataFolderError, tune, type Db } from './database';
import { rowsEach } from './derived';
import { catalogueState } from './facts';
import { dataVersion } from './open';
import { catalogueTables, columnsOf, hashRow, type Row } from './rows';
import type { Packed } from './release-file';
import type { Statements } from './statements';

/** The form of delta files that this Last writes and reads. */
const form = 1;

/** Where a delta file belongs: to which release file, after which one, and as which of them, from 1. Contents are hashes. */
export interface DeltaPlace {
  release: string;
  /** Those that follow one another: a release that is packed again begins another chain. */
  chain: string;
  /** The content of the delta before it; of the release for the first. */
  follows: string;
  number: number;
}

/** The revision of the goods, and the last one that may have changed anything: products say at which they changed. */
type Revisions = ReturnType<typeof catalogueState>;

/** A name for a chain that no other has. */
export const newChain = (): string => randomBytes(4).toString('hex');

const deltaName = ({ release, chain, number }: DeltaPlace): string =>
  `${release.slice(0, 16)}-${chain}-${String(number).padStart(6, '0')}.delta`;

/** The chain and number that the name of a delta file of a release says; null: it is none of it. */
export function deltaOf(name: string, release: string): { chain: string; number: number } | null {
  const [, of = '', chain = '', number] = /^([0-9a-f]{16})-([0-9a-f]{8})-(\d{6,})\.delta$/.exec(name) ?? [];
  return of && of === release.slice(0, 16) ? { chain, number: Number(number) } : null;
}

/** Rows of a table by their keys, and in the order of those. */
function rowsOf(db: Db, table: string, keys: string): Row[] {
  const { names, key } = columnsOf(db, table);
  if (table === 'product_search') {
    // Found in the table beneath: the search itself goes through a range of them many times as slowly.
    const ids = db
      .prepare(
        `SELECT row.id FROM json_each(?) AS one CROSS JOIN product_search_content AS row
         WHERE row.id BETWEEN (one.value ->> 0) * ${rowsEach} AND (one.value ->> 0) * ${rowsEach} + ${rowsEach - 1} ORDER BY row.id`,
      )
      .pluck()
      .all(keys);
    const one = db.prepare(`SELECT ${names.join(', ')} FROM product_search WHERE rowid = ?`);
    return ids.map((id) => one.get(id) as Row);
  }
  const same = key.map((name, at) => `t.${name} = (one.value ->> ${at})`).join(' AND ');
  return db
    .prepare(
      `SELECT ${names.map((name) => `t.${name}`).join(', ')} FROM json_each(?) AS one CROSS JOIN ${table} AS t WHERE ${same}`,
    )
    .all(keys) as Row[];
}

/** The hash of a delta: its place, the keys that it names, and the rows that there are of them. */
function contentOf(
  { release, chain, follows, number, revision, whole }: DeltaPlace & Revisions,
  parts: Iterable<readonly [string, string, Row[]]>,
): string {
  const hash = createHash('sha256').update(`${form} ${release} ${chain} ${follows} ${number} ${revision} ${whole}\n`);
  for (const [table, keys, rows] of parts) {
    hash.update(`\n${table} ${keys}\n`);
    for (const row of rows) hashRow(hash, Object.values(row));
  }
  return hash.digest('hex');
}

/**
 * Writes the rows of the goods that have changed, as they are now, into a file of their own in a folder: what brings the release file before it up to
 * date. Gives up to which turn of the noted changes it goes.
 *
 * @throws DataFolderError with what to do; nothing is left of a file that failed
 */
export function packDelta(sql: Statements, place: DeltaPlace, to: string): Packed & { upTo: number } {
  let work: string | null = null;
  try {
    work = mkdtempSync(join(to, '.pack-'));
    const part = join(work, 'part');
    const made = new Database(part);
    made.pragma('page_size = 1024');
    made.pragma('journal_mode = OFF');
    const { content, upTo } = sql.snapshot(() => {
      const upTo = lastTurn(sql);
      const keys = changedKeys(sql, upTo);
      const parts = catalogueTables.flatMap((table) => {
        const of = keys.get(table);
        return of === undefined ? [] : ([[table, of, rowsOf(sql.db, table, of)]] as const);
      });
      return { content: fill(made, { ...place, ...catalogueState(sql) }, parts), upTo };
    });
    made.close();
    const descriptor = openSync(part, 'r');
    fsyncSync(descriptor);
    closeSync(descriptor);
    const { size } = statSync(part);
    const file = join(to, deltaName(place));
    renameSync(part, file);
    return { file, content, size, upTo };
  } catch (error) {
    throw new DataFolderError(
      `A delta file could not be written to ${to}: ${(error as Error).message}. Nothing was kept of it.`,
    );
  } finally {
    if (work !== null) rmSync(work, { recursive: true, force: true });
  }
}

function fill(made: Db, place: DeltaPlace & Revisions, parts: readonly (readonly [string, string, Row[]])[]): string {
  const content = contentOf(place, parts);
  made.transaction(() => {
    made.exec(
      `CREATE TABLE delta_file (form INTEGER, content TEXT, "release" TEXT, chain TEXT, follows TEXT, number INTEGER,
         revision INTEGER, whole INTEGER);
       CREATE TABLE changed (position INTEGER PRIMARY KEY, of TEXT, keys TEXT)`,
    );
    made
      .prepare('INSERT INTO delta_file VALUES (?, ?, ?, ?, ?, ?, ?, ?)')
      .run(form, content, place.release, place.chain, place.follows, place.number, place.revision, place.whole);
    const note = made.prepare('INSERT INTO changed (of, keys) VALUES (?, ?)');
    for (const [table, keys, rows] of parts) {
      note.run(table, keys);
      const names = Object.keys(rows[0] ?? {});
      if (!names.length) continue;
      const columns = names.map((name) => `"${name === 'rowid' ? 'row' : name}"`);
      made.exec(`CREATE TABLE "of_${table}" (${columns.join(', ')})`);
      const put = made.prepare(
        `INSERT INTO "of_${table}" (${columns.join(', ')}) VALUES (${names.map(() => '?').join(', ')})`,
      );
      for (const row of rows) put.run(...Object.values(row));
    }
    made.pragma(`user_version = ${dataVersion}`);
  })();
  return content;
}

/** A delta file that was read, and is what was written. */
export interface Delta extends DeltaPlace, Revisions {
  content: string;
  parts: readonly (readonly [table: string, keys: string, rows: Row[]])[];
}

/** Reads a delta file whole. @throws DataFolderError when it is none that this Last reads, or not whole */
export function readDelta(file: string): Delta {
  const wrong = (why: string): never => {
    throw new DataFolderError(`${file} cannot be used: ${why}.`);
  };
  if (!existsSync(file)) return wrong('there is no such file');
  let db: Db | null = null;
  try {
    db = new Database(file, { readonly: true, fileMustExist: true });
    tune(db);
    const tables = new Set(db.prepare('SELECT name FROM sqlite_schema').pluck().all() as string[]);
    if (!tables.has('delta_file')) return wrong('it is not a delta file');
    const { form: of, ...delta } = db
      .prepare('SELECT form, content, "release", chain, follows, number, revision, whole FROM delta_file')
      .get() as Omit<Delta, 'parts'> & { form: number };
    const version = db.pragma('user_version', { simple: true }) as number;
    if (of > form || version > dataVersion) return wrong('it was written by a newer Last');
    if (of < form || version < dataVersion) return wrong('it was written by an older Last: pack the release again');
    const noted = db.prepare('SELECT of, keys FROM changed ORDER BY position').all() as { of: string; keys: string }[];
    const parts = noted.map(({ of: table, keys }): Delta['parts'][number] => {
      if (!(catalogueTables as readonly string[]).includes(table)) return wrong('it names what a shop does not have');
      if (!tables.has(`of_${table}`)) return [table, keys, []];
      return [table, keys, db?.prepare(`SELECT * FROM "of_${table}" ORDER BY rowid`).all() as Row[]];
    });
    if (contentOf(delta, parts) !== delta.content) return wrong('what it holds is not what was written: copy it again');
    return { ...delta, parts };
  } catch (error) {
    if (error instanceof DataFolderError) throw error;
    return wrong(`it is damaged (${(error as Error).message})`);
  } finally {
    db?.close();
  }
}

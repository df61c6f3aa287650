import Database from 'better-sqlite3';
import { createHash, createHmac, type Hash } from 'node:crypto';
import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
} from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { databaseFile, DataFolderError, openForReading, tune, type Db } from './database';
import { catalogueState } from './facts';
import { dataVersion, openDatabase } from './open';
import { catalogueTables, everything, hashRow, type Row } from './rows';
import { Statements } from './statements';
import { type StateRow, StoredThemes } from './themes';

/** The form of release files that this Last writes and reads. */
const form = 1;

/** Tables of the theme: of one state alone, its layers without those that they add to. */
const theme = ['state', 'layer', 'state_layer', 'blob', 'layer_file', 'live'] as const;

/** A file that was written: the hash of what it holds, and its size in bytes. */
export interface Packed {
  file: string;
  content: string;
  size: number;
}

const byPath = (a: { path: string }, b: { path: string }): number => (a.path < b.path ? -1 : 1);

/**
 * Writes a state of a shop, its theme with the catalogue and the pictures, into one file that nothing changes any more: a database of the same form as a
 * data folder's, in which all that is not the shop's as customers see it is empty: other drafts and releases, histories, accounts, the log, carts. The
 * same state gives the same `content`. It is read at one moment, while the shop is in use, and takes its name once it is whole.
 *
 * @param to a file, or a folder, in which it is named by its content
 * @throws DataFolderError with what to do; nothing is left of a file that failed
 */
export function packRelease(folder: string, find: (themes: StoredThemes) => StateRow, to: string): Packed {
  if (!existsSync(databaseFile(folder))) throw new DataFolderError(`There is no shop in ${folder} to pack.`);
  // What is not there yet is a folder, unless it is called as release files are.
  const isFolder = statSync(to, { throwIfNoEntry: false })?.isDirectory() ?? !to.endsWith('.release');
  const source = openForReading(folder);
  let work: string | null = null;
  /** The first of the folders that were not there. */
  let begun: string | undefined;
  try {
    if (isFolder) begun = mkdirSync(to, { recursive: true });
    work = mkdtempSync(join(isFolder ? to : dirname(resolve(to)), '.pack-'));
    const made = openDatabase(work);
    const content = source.transaction(() => {
      const themes = new StoredThemes(new Statements(source));
      return fill(made, themes, find(themes));
    })();
    made.pragma('journal_mode = DELETE');
    made.close();
    const part = databaseFile(work);
    const file = isFolder ? join(to, `${content.slice(0, 16)}.release`) : resolve(to);
    const descriptor = openSync(part, 'r');
    fsyncSync(descriptor);
    closeSync(descriptor);
    const { size } = statSync(part);
    if (isFolder) afterOthers(part, to);
    renameSync(part, file);
    return { file, content, size };
  } catch (error) {
    if (begun !== undefined) rmSync(begun, { recursive: true, force: true });
    if ((error as Error).name === 'Refused') throw error;
    throw new DataFolderError(
      `${basename(to)} could not be written: ${(error as Error).message}. Nothing was kept of it.`,
    );
  } finally {
    source.close();
    if (work !== null) rmSync(work, { recursive: true, force: true });
  }
}

/** Has a file count as newer than the release files of a folder, whatever the clock was when they were written. */
function afterOthers(part: string, folder: string): void {
  const times = readdirSync(folder)
    .filter((name) => name.endsWith('.release'))
    .map((name) => statSync(join(folder, name)).mtimeMs);
  const newest = Math.max(0, ...times);
  if (statSync(part).mtimeMs > newest) return;
  const at = (Math.floor(newest) + 1) / 1000;
  utimesSync(part, at, at);
}

/** Copies all that belongs to a state; gives the hash of it. */
function fill(made: Db, themes: StoredThemes, state: StateRow): string {
  const { db } = themes.sql;
  const hash = createHash('sha256');
  // What refers to what is copied row by row: it is looked at as a whole at the end.
  made.pragma('foreign_keys = OFF');
  made.transaction(() => {
    for (const table of [...catalogueTables, ...theme]) made.exec(`DELETE FROM ${table}`);
    const put = (table: string, rows: Iterable<Row>) => copied(made, table, rows, hash);
    for (const table of catalogueTables) put(table, db.prepare(everything(made, table)).iterate() as Iterable<Row>);
    const layers = themes.layers(state.id);
    const number = state.number ?? 1;
    const errorPages = db.prepare('SELECT error_pages FROM state WHERE id = ?').pluck().get(state.id) as string;
    put('state', [
      {
        ...{ id: 1, kind: 'release', slug: null, name: state.name, note: state.note, number, made_at: state.madeAt },
        ...{ made_by: '', revision: 1, removed_at: null, from_id: null, error_pages: errorPages },
      },
    ]);
    const named = layers.map(({ kind, name, version }, at) => ({ id: at + 1, kind, name, version, parent_id: null }));
    put('layer', named);
    put(
      'state_layer',
      layers.map((_, at) => ({ state_id: 1, position: at, layer_id: at + 1 })),
    );
    const files = layers.flatMap(({ id }, at) =>
      [...themes.hashes(id).values()]
        .sort(byPath)
        .map(({ path, hash: of }) => ({ layer_id: at + 1, path, hash: of, origin: null })),
    );
    const bytes = new Set(files.map((one) => one.hash));
    put(
      'blob',
      [...bytes].sort().map((of) => ({ hash: of, bytes: themes.bytes(of) })),
    );
    put('layer_file', files);
    put('live', [{ id: 1, state_id: 1 }]);
    const content = hash.digest('hex');
    const key = createHmac('sha256', db.prepare('SELECT key FROM signing_key').pluck().get() as Buffer);
    made.exec(
      'CREATE TABLE release_file (form INTEGER NOT NULL, content TEXT NOT NULL, picture_key BLOB NOT NULL) STRICT',
    );
    made.prepare('INSERT INTO release_file VALUES (?, ?, ?)').run(form, content, key.update('pictures').digest());
    // Products say at which revision of the goods they changed.
    const { revision, whole } = catalogueState(themes.sql);
    made.prepare('UPDATE catalogue_state SET revision = ?, whole = ?').run(revision, whole);
    // The key of the data folder signs more than pictures: this file has none of it.
    made.prepare('UPDATE signing_key SET key = zeroblob(32)').run();
    const [loose] = made.pragma('foreign_key_check') as { table: string }[];
    if (loose) throw new Error(`${loose.table} refers to something that is not there`);
  })();
  return made.prepare('SELECT content FROM release_file').pluck().get() as string;
}

/** Puts rows into a table, and into the hash. */
function copied(made: Db, table: string, rows: Iterable<Row>, hash: Hash): void {
  let insert: Database.Statement | null = null;
  hash.update(`\n${table}\n`);
  for (const row of rows) {
    const names = Object.keys(row);
    insert ??= made.prepare(`INSERT INTO ${table} (${names.join(', ')}) VALUES (${names.map(() => '?').join(', ')})`);
    const values = Object.values(row);
    insert.run(...values);
    hashRow(hash, values);
  }
}

/** Opens a release file for reading. @throws DataFolderError when it is none that this Last reads, or not whole */
export function openReleaseFile(file: string): Db {
  const wrong = releaseFault(file);
  if (wrong) throw new DataFolderError(`${file} cannot be used: ${wrong}.`);
  const db = new Database(file, { readonly: true, fileMustExist: true });
  tune(db);
  return db;
}

/**
 * What keeps a file from being a release file that this Last reads: a sentence, or null. Quick: its form, its version and its length. `whole`: all that
 * it holds too, against the hash that it was written with.
 */
export function releaseFault(file: string, whole = false): string | null {
  if (!existsSync(file)) return 'there is no such file';
  let db: Db;
  try {
    db = new Database(file, { readonly: true, fileMustExist: true });
  } catch (error) {
    return (error as Error).message;
  }
  try {
    if (!db.prepare("SELECT 1 FROM sqlite_schema WHERE name = 'release_file'").get()) return 'it is not a release file';
    const size =
      (db.pragma('page_count', { simple: true }) as number) * (db.pragma('page_size', { simple: true }) as number);
    if (statSync(file).size !== size) return 'it is not whole: copy it again';
    const { form: of, content } = db.prepare('SELECT form, content FROM release_file').get() as {
      form: number;
      content: string;
    };
    const version = db.pragma('user_version', { simple: true }) as number;
    if (of > form || version > dataVersion) return 'it was written by a newer Last';
    if (of < form || version < dataVersion) return 'it was written by an older Last: pack it again';
    if (!whole) return null;
    // What is looked up is read from indexes, which the content does not know.
    const [sound] = db.pragma('integrity_check(1)') as { integrity_check: string }[];
    if (sound?.integrity_check !== 'ok') return `it is damaged (${sound?.integrity_check ?? 'unreadable'})`;
    return contentOf(db) === content ? null : 'what it holds is not what was written: copy it again';
  } catch (error) {
    return `it is damaged (${(error as Error).message})`;
  } finally {
    db.close();
  }
}

/** The hash of what a release file holds, worked out from it. */
function contentOf(db: Db): string {
  const hash = createHash('sha256');
  const read = (table: string, sql: string) => {
    hash.update(`\n${table}\n`);
    for (const row of db.prepare(sql).iterate() as Iterable<Row>) hashRow(hash, Object.values(row));
  };
  for (const table of catalogueTables) read(table, everything(db, table));
  read(
    'state',
    `SELECT id, kind, slug, name, note, number, made_at, made_by, revision, removed_at, from_id, error_pages FROM state`,
  );
  read('layer', 'SELECT id, kind, name, version, parent_id FROM layer ORDER BY id');
  read('state_layer', 'SELECT state_id, position, layer_id FROM state_layer ORDER BY position');
  read('blob', 'SELECT hash, bytes FROM blob ORDER BY hash');
  read('layer_file', 'SELECT layer_id, path, hash, origin FROM layer_file ORDER BY layer_id, path');
  read('live', 'SELECT id, state_id FROM live');
  return hash.digest('hex');
}

/** The key by which addresses of pictures are signed: that of a release file, or one that the data folder's own gives. */
export function pictureKey(sql: Statements): Buffer {
  const isFile = sql.get("SELECT 1 FROM sqlite_schema WHERE name = 'release_file'") !== undefined;
  if (isFile) return sql.get<{ key: Buffer }>('SELECT picture_key AS key FROM release_file')?.key as Buffer;
  const own = sql.get<{ key: Buffer }>('SELECT key FROM signing_key WHERE id = 1')?.key as Buffer;
  return createHmac('sha256', own).update('pictures').digest();
}

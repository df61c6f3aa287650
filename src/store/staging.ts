import Database from 'better-sqlite3';
import type { GoodsIssue, TableRow } from '@/core/exchange';
import { readChange, type RecordChange, type RecordKind } from './goods';
import { Statements } from './statements';

const schema = `
CREATE TABLE IF NOT EXISTS line (seq INTEGER PRIMARY KEY, key TEXT NOT NULL, called TEXT NOT NULL, line INTEGER NOT NULL, cells TEXT NOT NULL) STRICT;
CREATE TABLE IF NOT EXISTS record (
  seq INTEGER PRIMARY KEY, kind TEXT NOT NULL, slug TEXT NOT NULL, what TEXT NOT NULL, before TEXT NOT NULL, after TEXT NOT NULL
) STRICT;
CREATE INDEX IF NOT EXISTS record_what ON record(what, seq);
CREATE TABLE IF NOT EXISTS issue (
  line INTEGER NOT NULL, col TEXT NOT NULL, value TEXT NOT NULL, message TEXT NOT NULL, severity TEXT NOT NULL
) STRICT;
CREATE TABLE IF NOT EXISTS about (name TEXT PRIMARY KEY, value TEXT NOT NULL) STRICT, WITHOUT ROWID;
`;

/** The rows of one product. */
export interface RowGroup {
  key: string;
  /** What its rows call it, each once: more than one where two names come to the same. */
  called: string[];
  rows: TableRow[];
}

/**
 * An import that is being looked at before it happens: the file's rows, what they would change, and what cannot be taken. In a database of
 * its own beside the catalogue's, so that a file of any size needs little memory.
 */
export class Staging {
  readonly sql: Statements;

  /** `file`: where it is kept; `:memory:` for tests. */
  constructor(readonly file: string) {
    const db = new Database(file);
    // Nothing of it has to outlive a crash.
    db.pragma('journal_mode = OFF');
    db.pragma('synchronous = OFF');
    db.exec(schema);
    this.sql = new Statements(db);
  }

  close(): void {
    this.sql.db.close();
  }

  transaction<T>(work: () => T): T {
    return this.sql.db.inTransaction ? work() : this.sql.db.transaction(work)();
  }

  putRow(key: string, called: string, { line, cells }: TableRow): void {
    this.sql.run(
      'INSERT INTO line (key, called, line, cells) VALUES (?, ?, ?, ?)',
      key,
      called,
      line,
      JSON.stringify(cells),
    );
  }

  /** The rows, those of one product together, products in the order of their first rows; a batch of products at a time. */
  *groups(batch: number): Generator<RowGroup[]> {
    this.sql.db.exec('CREATE INDEX IF NOT EXISTS line_key ON line(key, seq)');
    this.sql.db.exec('CREATE TABLE IF NOT EXISTS grouped AS SELECT key FROM line GROUP BY key ORDER BY min(seq)');
    for (let from = 0; ; from += batch) {
      const rows = this.sql.all<{ key: string; called: string; line: number; cells: string }>(
        `SELECT l.key, l.called, l.line, l.cells FROM (SELECT rowid AS place, key FROM grouped WHERE rowid > ? AND rowid <= ?) g
         JOIN line l ON l.key = g.key ORDER BY g.place, l.seq`,
        from,
        from + batch,
      );
      if (!rows.length) return;
      const groups: RowGroup[] = [];
      for (const { key, called, line, cells } of rows) {
        let group = groups.at(-1);
        if (group?.key !== key) groups.push((group = { key, called: [], rows: [] }));
        if (!group.called.includes(called)) group.called.push(called);
        group.rows.push({ line, cells: JSON.parse(cells) as string[] });
      }
      yield groups;
    }
  }

  putChange({ kind, slug, what, before, after }: RecordChange): void {
    this.sql.run(
      'INSERT INTO record (kind, slug, what, before, after) VALUES (?, ?, ?, ?, ?)',
      kind,
      slug,
      what,
      JSON.stringify(before),
      JSON.stringify(after),
    );
  }

  /** Puts another list of names into a change that was staged. */
  keepNamed({ kind, slug }: RecordChange, field: string, names: readonly string[]): void {
    this.sql.run(
      'UPDATE record SET after = json_set(after, ?, json(?)) WHERE kind = ? AND slug = ?',
      `$.${field}`,
      JSON.stringify(names),
      kind,
      slug,
    );
  }

  /** What would change, in the order in which it is written: by kind, those that go last. `every`: of products only one of so many. */
  *changes(kinds: readonly RecordKind[], every = 1): Generator<RecordChange> {
    const rows = (kind: RecordKind, removed: boolean) =>
      this.sql.db
        .prepare(
          `SELECT kind, slug, what, before, after FROM record WHERE kind = ? AND (what = 'removed') = ? AND (kind <> 'product' OR seq % ? = 0) ORDER BY seq ${removed ? 'DESC' : ''}`,
        )
        .iterate(kind, removed ? 1 : 0, every) as Iterable<Parameters<typeof readChange>[0]>;
    for (const kind of kinds) for (const row of rows(kind, false)) yield readChange(row);
    for (const kind of [...kinds].reverse()) for (const row of rows(kind, true)) yield readChange(row);
  }

  /** Slugs of records that would be removed. */
  removed(kind: RecordKind): string[] {
    return this.sql
      .all<{ slug: string }>(`SELECT slug FROM record WHERE what = 'removed' AND kind = ?`, kind)
      .map(({ slug }) => slug);
  }

  /** What would be added to a kind or changed in it, of records in which one of these fields is another afterwards. */
  *withFields(kind: RecordKind, fields: readonly string[]): Generator<RecordChange> {
    const has = fields.map((field) => `instr(after, '"${field}":') > 0`).join(' OR ');
    const rows = this.sql.db
      .prepare(
        `SELECT kind, slug, what, '{}' AS before, after FROM record WHERE kind = ? AND what <> 'removed' AND (${has}) ORDER BY seq`,
      )
      .iterate(kind) as Iterable<Parameters<typeof readChange>[0]>;
    for (const row of rows) yield readChange(row);
  }

  /** Some of what would change, for people to look at. */
  page(what: RecordChange['what'], from: number, most: number): RecordChange[] {
    return this.sql
      .all<Parameters<typeof readChange>[0]>(
        'SELECT kind, slug, what, before, after FROM record WHERE what = ? ORDER BY seq LIMIT ? OFFSET ?',
        what,
        most,
        from,
      )
      .map(readChange);
  }

  counts(): { kind: RecordKind; what: RecordChange['what']; count: number }[] {
    return this.sql.all('SELECT kind, what, count(*) AS count FROM record GROUP BY kind, what ORDER BY kind, what');
  }

  putIssue({ line, column, value, message, severity }: GoodsIssue): void {
    this.sql.run(
      'INSERT INTO issue (line, col, value, message, severity) VALUES (?, ?, ?, ?, ?)',
      line,
      column,
      value.slice(0, 200),
      message,
      severity,
    );
  }

  /** What there is to say, what cannot be taken before what is to be known. */
  issues(from = 0, most = 1_000_000): GoodsIssue[] {
    return this.sql.all(
      `SELECT line, col AS "column", value, message, severity FROM issue ORDER BY severity = 'warning', line, rowid LIMIT ? OFFSET ?`,
      most,
      from,
    );
  }

  issueCount(severity: GoodsIssue['severity']): number {
    return this.sql.get<{ n: number }>('SELECT count(*) AS n FROM issue WHERE severity = ?', severity)?.n ?? 0;
  }

  /** Something about the import as a whole. */
  note(name: string, value: unknown): void {
    this.sql.run(
      'INSERT INTO about (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value',
      name,
      JSON.stringify(value),
    );
  }

  noted<T>(name: string): T | null {
    const row = this.sql.get<{ value: string }>('SELECT value FROM about WHERE name = ?', name);
    return row ? (JSON.parse(row.value) as T) : null;
  }
}

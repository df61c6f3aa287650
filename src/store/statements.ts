import type { Statement } from 'better-sqlite3';
import type { Db } from './database';
import type { FileWatch } from './watch';

/** Prepares each SQL text once for a database, and counts what is run: no page may make more queries than it must. */
export class Statements {
  readonly #prepared = new Map<string, Statement>();
  /** Queries run so far. */
  count = 0;

  /** Looked at before anything is written. */
  watch: FileWatch | null = null;

  constructor(readonly db: Db) {}

  /** Reads what belongs together as it is at one moment. */
  snapshot<T>(work: () => T): T {
    return this.db.inTransaction ? work() : this.db.transaction(work).deferred();
  }

  all<T>(sql: string, ...values: unknown[]): T[] {
    return this.#run(sql).all(...values) as T[];
  }

  get<T>(sql: string, ...values: unknown[]): T | undefined {
    return this.#run(sql).get(...values) as T | undefined;
  }

  run(sql: string, ...values: unknown[]): { changes: number; id: number } {
    if (this.watch && !this.db.inTransaction) this.watch.check();
    const { changes, lastInsertRowid } = this.#run(sql).run(...values);
    return { changes, id: Number(lastInsertRowid) };
  }

  #run(sql: string): Statement {
    this.count++;
    let statement = this.#prepared.get(sql);
    if (!statement) this.#prepared.set(sql, (statement = this.db.prepare(sql)));
    return statement;
  }
}

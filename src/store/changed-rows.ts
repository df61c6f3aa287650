import { catalogueTables, columnsOf } from './rows';
import type { Statements } from './statements';

/** The index of words takes no triggers: what fills it notes its products here. */
const searched = 'product_search';
const noted = catalogueTables.filter((table) => table !== searched);
/** In place of a key: the whole of a table. */
const whole = '*';

const triggerOf = (table: string, when: string): string => `changed_${table}_${when}`;
const isNoting = `EXISTS (SELECT 1 FROM sqlite_schema WHERE type = 'trigger' AND name = '${triggerOf('product', 'update')}')`;

/** From now on each change of a row of the goods is noted, whoever makes it. What was noted before is forgotten. */
export function noteChanges(sql: Statements): void {
  sql.db
    .transaction(() => {
      noteNoChanges(sql);
      sql.run('DELETE FROM changed_row');
      for (const table of noted) {
        const { names, key } = columnsOf(sql.db, table);
        const note = (row: 'OLD' | 'NEW') =>
          `INSERT INTO changed_row (of, key) VALUES ('${table}', json_array(${key.map((one) => `${row}.${one}`).join(', ')}));`;
        const differ = (some: readonly string[]) => some.map((one) => `NEW.${one} IS NOT OLD.${one}`).join(' OR ');
        const on = (when: string, what: string, condition: string, then: string) =>
          sql.db.exec(
            `CREATE TRIGGER ${triggerOf(table, when)} AFTER ${what} ON ${table} ${condition} BEGIN ${then} END`,
          );
        on('insert', 'INSERT', '', note('NEW'));
        on('delete', 'DELETE', '', note('OLD'));
        on('update', 'UPDATE', `WHEN ${differ(names)}`, note('NEW'));
        on('key', 'UPDATE', `WHEN ${differ(key)}`, note('OLD'));
      }
    })
    .immediate();
}

/** Changes are noted no longer, and those that were are forgotten. */
export function noteNoChanges(sql: Statements): void {
  if (!sql.get(`SELECT 1 WHERE ${isNoting}`)) return;
  sql.db.transaction(() => {
    for (const table of noted)
      for (const when of ['insert', 'delete', 'update', 'key'])
        sql.db.exec(`DROP TRIGGER IF EXISTS ${triggerOf(table, when)}`);
    sql.run('DELETE FROM changed_row');
  })();
}

/** Notes that what the search knows of products is told again: of these, or of all (null). */
export function noteSearched(sql: Statements, ids: readonly number[] | null): void {
  if (ids === null) sql.run(`INSERT INTO changed_row (of, key) SELECT '${searched}', '${whole}' WHERE ${isNoting}`);
  else
    sql.run(
      `INSERT INTO changed_row (of, key) SELECT '${searched}', json_array(value) FROM json_each(?) WHERE ${isNoting}`,
      JSON.stringify(ids),
    );
}

/** Up to where changes are noted. */
export const lastTurn = (sql: Statements): number =>
  sql.get<{ turn: number | null }>('SELECT max(turn) AS turn FROM changed_row')?.turn ?? 0;

/** Whether so few rows have changed since that they are best said one by one. */
export function isFew(sql: Statements, most: number): boolean {
  const sum = sql.get<{ rows: number; all: number }>(
    `SELECT count(*) AS rows, coalesce(sum(key = '${whole}'), 0) AS "all" FROM (SELECT key FROM changed_row LIMIT ?)`,
    most + 1,
  );
  return sum !== undefined && sum.rows <= most && sum.all === 0;
}

/** Keys of the rows that have changed up to a turn, by table, as one JSON array each; in an order of their own. */
export function changedKeys(sql: Statements, upTo: number): Map<string, string> {
  const rows = sql.all<{ of: string; keys: string }>(
    `SELECT of, json_group_array(json(key)) AS keys
     FROM (SELECT DISTINCT of, key FROM changed_row WHERE turn <= ? ORDER BY of, key) GROUP BY of`,
    upTo,
  );
  return new Map(rows.map(({ of, keys }) => [of, keys]));
}

/** Forgets changes up to a turn: they stand in a file now. */
export const forgetChanges = (sql: Statements, upTo: number): void =>
  void sql.run('DELETE FROM changed_row WHERE turn <= ?', upTo);

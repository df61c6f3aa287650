import type { OrderBody } from './carts';
import type { Statements } from './statements';

/** New: nobody has taken it up yet. */
export type OrderState = 'new' | 'taken' | 'cancelled';

/** What orders are looked for; what is left out holds for any. Days as `2026-11-30`, in UTC. */
export interface OrderFilter {
  state?: OrderState | undefined;
  /** In its number, address, or the names and article numbers of its lines. */
  words?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
}

/** An order as lists show it. Amounts in minor units. */
export interface OrderRow {
  number: number;
  madeAt: string;
  /** The release or draft that it was made on. */
  madeOn: string;
  email: string;
  locale: string;
  currency: string;
  total: number;
  /** How many things are ordered. */
  count: number;
  state: OrderState;
  /** When it got this state, and from whom; null: it is new. */
  changedAt: string | null;
  by: string | null;
}

export type StoredOrderBody = OrderRow & Pick<OrderBody, 'lines'>;

const columns = `o.number, o.made_at AS madeAt, o.body ->> 'state' AS madeOn, o.body ->> 'email' AS email, o.body ->> 'locale' AS locale,
  o.body ->> 'currency' AS currency, o.body ->> 'total' AS total,
  (SELECT coalesce(sum(line.value ->> 'quantity'), 0) FROM json_each(o.body, '$.lines') AS line) AS count,
  coalesce(s.state, 'new') AS state, s.at AS changedAt, s.by`;
const tables = 'outbox o LEFT JOIN order_state s ON s.number = o.number';

/** Orders that customers made, and what became of them. */
export class Orders {
  constructor(readonly sql: Statements) {}

  /** The latest first; `before`: those of lower numbers. */
  list(filter: OrderFilter, before: number | null, most: number): OrderRow[] {
    const { where, values } = conditions(filter);
    return this.sql.all(
      `SELECT ${columns} FROM ${tables} WHERE ${where} ${before === null ? '' : 'AND o.number < :before'} ORDER BY o.number DESC LIMIT :most`,
      { ...values, ...(before === null ? {} : { before }), most },
    );
  }

  /** The same with their lines, one after another. */
  *whole(filter: OrderFilter): Generator<StoredOrderBody> {
    const { where, values } = conditions(filter);
    const rows = this.sql.db
      .prepare(`SELECT ${columns}, o.body ->> 'lines' AS lines FROM ${tables} WHERE ${where} ORDER BY o.number DESC`)
      .iterate(values) as Iterable<OrderRow & { lines: string }>;
    for (const row of rows) yield { ...row, lines: JSON.parse(row.lines) as OrderBody['lines'] };
  }

  one(number: number): StoredOrderBody | null {
    const sql = `SELECT ${columns}, o.body ->> 'lines' AS lines FROM ${tables} WHERE o.number = ?`;
    const row = this.sql.get<OrderRow & { lines: string }>(sql, number);
    return row ? { ...row, lines: JSON.parse(row.lines) as OrderBody['lines'] } : null;
  }

  /** How many there are in each state, of those that a filter leaves whatever their state is. */
  counts(filter: OrderFilter): Record<OrderState, number> {
    const { where, values } = conditions({ ...filter, state: undefined });
    const rows = this.sql.all<{ state: OrderState; count: number }>(
      `SELECT coalesce(s.state, 'new') AS state, count(*) AS count FROM ${tables} WHERE ${where} GROUP BY 1`,
      values,
    );
    return { new: 0, taken: 0, cancelled: 0, ...Object.fromEntries(rows.map(({ state, count }) => [state, count])) };
  }

  set(number: number, state: OrderState, at: string, by: string): void {
    if (state === 'new') this.sql.run('DELETE FROM order_state WHERE number = ?', number);
    else
      this.sql.run(
        `INSERT INTO order_state (number, state, at, by) VALUES (?, ?, ?, ?)
         ON CONFLICT (number) DO UPDATE SET state = excluded.state, at = excluded.at, by = excluded.by`,
        ...[number, state, at, by],
      );
  }
}

/** `LIKE` takes these for anything. */
const plainly = (words: string): string => words.replace(/[\\%_]/g, '\\$&');

function conditions({ state, words, from, to }: OrderFilter): { where: string; values: Record<string, string> } {
  const tests = ['true'];
  const values: Record<string, string> = {};
  const test = (name: string, value: string | undefined, sql: string) => {
    if (!value) return;
    tests.push(sql);
    values[name] = value;
  };
  if (state === 'new') tests.push('s.state IS NULL');
  else test('state', state, 's.state = :state');
  // The whole day counts.
  test('from', from, 'o.made_at >= :from');
  test('to', to, "o.made_at < date(:to, '+1 day')");
  test(
    'words',
    words?.trim() && `%${plainly(words.trim())}%`,
    `(CAST(o.number AS TEXT) LIKE :words ESCAPE '\\' OR o.body ->> 'email' LIKE :words ESCAPE '\\' OR EXISTS (
       SELECT 1 FROM json_each(o.body, '$.lines') AS line
       WHERE line.value ->> 'name' LIKE :words ESCAPE '\\' OR line.value ->> 'sku' LIKE :words ESCAPE '\\'))`,
  );
  return { where: tests.join(' AND '), values };
}

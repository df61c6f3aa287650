import type { CartRow } from '@/core/catalogue';
import type { Statements } from './statements';

/** A line as it is kept, with what its answers were last held to. */
export interface StoredLine extends CartRow {
  checked: string;
}

export interface StoredOrder {
  number: number;
  body: OrderBody;
}

/** An order as it waits in the outbox. Amounts in minor units. */
export interface OrderBody {
  number: number;
  madeAt: string;
  /** The release or draft that it was made on. */
  state: string;
  locale: string;
  currency: string;
  email: string;
  lines: {
    product: string;
    sku: string;
    name: string;
    variant: string;
    quantity: number;
    price: number;
    total: number;
    answers: { label: string; value: string }[];
  }[];
  total: number;
}

/** Carts of visitors, each found by the token in its cookie, and the orders made of them. */
export class Carts {
  constructor(readonly sql: Statements) {}

  /** Runs `work` whole or not at all. */
  transaction<T>(work: () => T): T {
    this.sql.watch?.check();
    return this.sql.db.transaction(work).immediate();
  }

  lines(token: string): StoredLine[] {
    return this.sql
      .all<Omit<StoredLine, 'answers'> & { answers: string }>(
        `SELECT l.id, l.product, l.sku, l.quantity, l.price, l.name, l.answers, l.checked
         FROM cart_line l JOIN cart c ON c.id = l.cart_id WHERE c.token = ? ORDER BY l.id`,
        token,
      )
      .map((row) => ({ ...row, answers: JSON.parse(row.answers) as CartRow['answers'] }));
  }

  /** Whether a token was handed out here: a cart has it, or an order that was made of one. */
  isIssued(token: string): boolean {
    const sql = 'SELECT 1 FROM cart WHERE token = ? UNION ALL SELECT 1 FROM outbox WHERE token = ? LIMIT 1';
    return this.sql.get(sql, token, token) !== undefined;
  }

  /**
   * Forgets carts that nobody changed for so many days; how many that were. Counted back from now, but from no later than a
   * day past the last change of any cart: a clock that is years ahead forgets nothing.
   */
  forgetOlder(days: number, now: Date): number {
    const last = this.sql.get<{ at: string | null }>('SELECT max(changed_at) AS at FROM cart')?.at ?? null;
    if (last === null) return 0;
    const dayMs = 86_400_000;
    const from = Math.min(now.getTime(), Date.parse(last) + dayMs);
    const before = new Date(from - days * dayMs).toISOString();
    return this.sql.run('DELETE FROM cart WHERE changed_at < ?', before).changes;
  }

  /** Puts a line in; one of the same thing with the same answers is added to. The cart is made when there is none. */
  add(token: string, line: Omit<StoredLine, 'id'>, at: string): void {
    this.sql.run(
      'INSERT INTO cart (token, made_at, changed_at) VALUES (?, ?, ?) ON CONFLICT (token) DO UPDATE SET changed_at = excluded.changed_at',
      token,
      at,
      at,
    );
    const cart = this.sql.get<{ id: number }>('SELECT id FROM cart WHERE token = ?', token)?.id as number;
    const answers = JSON.stringify(line.answers);
    const same = this.sql.run(
      `UPDATE cart_line SET quantity = quantity + ?, price = ?, name = ?, checked = ?
       WHERE cart_id = ? AND product = ? AND sku = ? AND answers = ?`,
      line.quantity,
      line.price,
      line.name,
      line.checked,
      cart,
      line.product,
      line.sku,
      answers,
    );
    if (same.changes) return;
    this.sql.run(
      'INSERT INTO cart_line (cart_id, product, sku, quantity, price, name, answers, checked) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
      cart,
      line.product,
      line.sku,
      line.quantity,
      line.price,
      line.name,
      answers,
      line.checked,
    );
  }

  /** Changes how many of a line are wanted, at the price that was seen now. False when the cart has no such line. */
  change(token: string, line: number, quantity: number, price: number, at: string): boolean {
    const of = 'cart_id = (SELECT id FROM cart WHERE token = ?)';
    const sql = `UPDATE cart_line SET quantity = ?, price = ? WHERE id = ? AND ${of}`;
    this.sql.run('UPDATE cart SET changed_at = ? WHERE token = ?', at, token);
    return this.sql.run(sql, quantity, price, line, token).changes > 0;
  }

  remove(token: string, line: number): boolean {
    const sql = 'DELETE FROM cart_line WHERE id = ? AND cart_id = (SELECT id FROM cart WHERE token = ?)';
    return this.sql.run(sql, line, token).changes > 0;
  }

  /** The answers of a line were held to these questions, and fit. */
  checked(line: number, key: string): void {
    this.sql.run('UPDATE cart_line SET checked = ? WHERE id = ?', key, line);
  }

  /** Makes an order of a cart and empties it; run it in a transaction. Numbers go up from 1001. */
  order(token: string, body: Omit<OrderBody, 'number'>): number {
    const number = (this.sql.get<{ n: number | null }>('SELECT max(number) AS n FROM outbox')?.n ?? 1000) + 1;
    this.sql.run(
      'INSERT INTO outbox (number, token, made_at, body) VALUES (?, ?, ?, ?)',
      number,
      token,
      body.madeAt,
      JSON.stringify({ number, ...body } satisfies OrderBody),
    );
    this.sql.run('DELETE FROM cart WHERE token = ?', token);
    return number;
  }

  /** An order that was made of this visitor's cart. */
  ordered(token: string, number: number): StoredOrder | null {
    const row = this.sql.get<{ number: number; body: string }>(
      'SELECT number, body FROM outbox WHERE number = ? AND token = ?',
      number,
      token,
    );
    return row ? { number: row.number, body: JSON.parse(row.body) as OrderBody } : null;
  }
}

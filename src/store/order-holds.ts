import type { OrderBody } from './carts';
import { tellPrices } from './derived';
import { readSetting, writeSetting } from './settings';
import type { Statements } from './statements';

/** How long an order holds stock: not at all, until it is taken, or so many hours if it is not taken before. */
export type HoldRule = 'no' | 'taken' | number;

const hourMs = 3_600_000;

/** Stock that orders hold. Run what changes it in a transaction. */
export class OrderHolds {
  constructor(readonly sql: Statements) {}

  rule(): HoldRule {
    return readSetting<HoldRule>(this.sql, 'holdStock') ?? 'no';
  }

  setRule(rule: HoldRule): void {
    writeSetting(this.sql, 'holdStock', rule);
  }

  /** Holds what an order is for, if the shop says so. `isOff`: the stock is without it already. */
  hold(number: number, lines: OrderBody['lines'], at: string, isOff = false): void {
    const rule = this.rule();
    if (rule === 'no') return;
    const until = rule === 'taken' ? null : new Date(Date.parse(at) + rule * hourMs).toISOString();
    const wanted = new Map<string, number>();
    for (const { sku, quantity } of lines) wanted.set(sku, (wanted.get(sku) ?? 0) + quantity);
    for (const [sku, quantity] of wanted)
      this.sql.run(
        `INSERT INTO order_hold (number, sku, quantity, until) VALUES (?, ?, ?, ?)
         ON CONFLICT (number, sku) DO UPDATE SET quantity = excluded.quantity, until = excluded.until`,
        ...[number, sku, quantity, until],
      );
    if (!isOff) this.#change(number, -1);
  }

  /** An order holds nothing any more. `back`: nobody has taken what it held, so it can be ordered again. */
  letGo(number: number, back: boolean): void {
    if (back) this.#change(number, 1);
    this.sql.run('DELETE FROM order_hold WHERE number = ?', number);
  }

  /** Orders that were to hold stock until now. */
  old(now: string): number[] {
    return this.sql
      .all<{ number: number }>('SELECT DISTINCT number FROM order_hold WHERE until <= ?', now)
      .map(({ number }) => number);
  }

  /** How much of these article numbers is held. */
  of(skus: readonly string[]): Map<string, number> {
    const rows = this.sql.all<{ sku: string; held: number }>(
      'SELECT sku, sum(quantity) AS held FROM order_hold WHERE sku IN (SELECT value FROM json_each(?)) GROUP BY sku',
      JSON.stringify(skus),
    );
    return new Map(rows.map(({ sku, held }) => [sku, held]));
  }

  /** Adds what an order holds to the stock, or takes it off. What has been deleted meanwhile has none. */
  #change(number: number, times: 1 | -1): void {
    const ids = this.sql
      .all<{ id: number }>(
        'SELECT DISTINCT v.product_id AS id FROM order_hold h JOIN variant v ON v.sku = h.sku WHERE h.number = ?',
        number,
      )
      .map(({ id }) => id);
    if (!ids.length) return;
    this.sql.run(
      `UPDATE variant SET stock = stock + ? * (SELECT quantity FROM order_hold h WHERE h.number = ? AND h.sku = variant.sku)
       WHERE sku IN (SELECT sku FROM order_hold WHERE number = ?)`,
      ...[times, number, number],
    );
    tellPrices(this.sql, ids);
    this.sql.run('UPDATE catalogue_state SET revision = revision + 1');
    this.sql.run(
      'UPDATE product SET revision = (SELECT revision FROM catalogue_state) WHERE id IN (SELECT value FROM json_each(?))',
      JSON.stringify(ids),
    );
  }
}

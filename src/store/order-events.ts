import { randomUUID } from 'node:crypto';
import type { OrderBody } from './carts';
import type { OrderState } from './orders';
import { readSetting, writeSetting } from './settings';
import type { Statements } from './statements';

/** What happened to an order: customers make it, staff say what became of it. */
export type OrderEventKind = 'made' | OrderState;

export interface OrderEvent {
  id: number;
  /** By which a receiver tells that it has heard of it before. */
  key: string;
  number: number;
  what: OrderEventKind;
  at: string;
  by: string;
  /** When it is told next; null: it was told, or is not to be. */
  dueAt: string | null;
  sentAt: string | null;
  tries: number;
  /** What came of the last try. */
  said: string;
}

/** Where orders are told to, and the secret by which the receiver knows that it is this shop who tells. */
export interface Receiver {
  url: string;
  secret: string;
}

const columns = 'id, key, number, what, at, by, due_at AS dueAt, sent_at AS sentAt, tries, said';

/** What happened to orders, and what of it is still to be told. */
export class OrderEvents {
  constructor(readonly sql: Statements) {}

  receiver(): Receiver | null {
    return readSetting<Receiver>(this.sql, 'ordersTo');
  }

  setReceiver(receiver: Receiver | null): void {
    writeSetting(this.sql, 'ordersTo', receiver);
  }

  /** Notes what happened; it is due at once where there is someone to tell. An order that was tried in a draft is told to nobody. */
  add(number: number, what: OrderEventKind, at: string, by: string, isTried: boolean): void {
    const due = isTried || this.receiver() === null ? null : at;
    this.sql.run(
      'INSERT INTO order_event (key, number, what, at, by, due_at) VALUES (?, ?, ?, ?, ?, ?)',
      ...[randomUUID(), number, what, at, by, due],
    );
  }

  /** Events of an order, in the order in which they happened. */
  of(number: number): OrderEvent[] {
    return this.sql.all(`SELECT ${columns} FROM order_event WHERE number = ? ORDER BY id`, number);
  }

  /** What is due by now, the first of each order alone: the next is told once it was. */
  due(now: string, most: number): OrderEvent[] {
    return this.sql.all(
      `SELECT ${columns} FROM order_event e WHERE due_at <= ? AND NOT EXISTS (
         SELECT 1 FROM order_event b WHERE b.number = e.number AND b.id < e.id AND b.due_at IS NOT NULL)
       ORDER BY due_at, id LIMIT ?`,
      now,
      most,
    );
  }

  /** The order of an event, as its customer made it. */
  body(number: number): OrderBody | null {
    const row = this.sql.get<{ body: string }>('SELECT body FROM outbox WHERE number = ?', number);
    return row ? (JSON.parse(row.body) as OrderBody) : null;
  }

  sent(id: number, at: string, said: string): void {
    const sql = 'UPDATE order_event SET sent_at = ?, due_at = NULL, tries = tries + 1, said = ? WHERE id = ?';
    this.sql.run(sql, at, said, id);
  }

  failed(id: number, dueAt: string, said: string): void {
    this.sql.run('UPDATE order_event SET due_at = ?, tries = tries + 1, said = ? WHERE id = ?', dueAt, said, id);
  }

  /** Has an event told again, under the same key; false: the order has none of that number. */
  again(number: number, id: number, at: string): boolean {
    const sql = 'UPDATE order_event SET due_at = ?, sent_at = NULL, tries = 0 WHERE id = ? AND number = ?';
    return this.sql.run(sql, at, id, number).changes > 0;
  }

  /** Has all that could not be told yet told now. */
  hurry(at: string): void {
    this.sql.run('UPDATE order_event SET due_at = ? WHERE due_at > ?', at, at);
  }

  /** How many events could not be told, with what came of the last try, and when the next is; null: none. */
  stuck(): { count: number; said: string; next: string } | null {
    const row = this.sql.get<{ count: number; said: string | null; next: string | null }>(
      `SELECT count(*) AS count, min(due_at) AS next,
         (SELECT said FROM order_event WHERE due_at IS NOT NULL AND tries > 0 ORDER BY due_at LIMIT 1) AS said
       FROM order_event WHERE due_at IS NOT NULL AND tries > 0`,
    );
    return row?.count ? { count: row.count, said: row.said ?? '', next: row.next ?? '' } : null;
  }
}

import type { RecordKind } from './goods';
import type { Statements } from './statements';

/** Figures of the goods that change often. Prices in minor units; the stock with what orders hold of it. */
export interface FigureRow {
  sku: string;
  product: string;
  price: number;
  wasPrice: number | null;
  stock: number;
}

/** A change of one record, in the order in which changes were made. */
export interface ChangedRecord {
  cursor: number;
  kind: RecordKind;
  slug: string;
  what: 'added' | 'changed' | 'removed';
  at: string;
  by: string;
  title: string;
}

/** What changes of goods that another system sends are called in the history. */
export const feedTitle = 'Feed';

/** What other systems need of a shop that they send goods to. */
export class Feeds {
  constructor(readonly sql: Statements) {}

  /** What a request was answered that came under this key; null: none did. */
  answered(key: string): { hash: string; answer: string } | null {
    const sql = 'SELECT hash, answer FROM feed_request WHERE key = ?';
    return this.sql.get<{ hash: string; answer: string }>(sql, key) ?? null;
  }

  keep(key: string, hash: string, answer: string, at: string): void {
    this.sql.run('INSERT INTO feed_request (key, hash, answer, at) VALUES (?, ?, ?, ?)', key, hash, answer, at);
  }

  /** Forgets answers that were given before a moment. */
  forget(before: string): void {
    this.sql.run('DELETE FROM feed_request WHERE at < ?', before);
  }

  /** Prices and stock of all variants, in the order of their article numbers. */
  figures(): IterableIterator<FigureRow> {
    return this.sql.db
      .prepare(
        `SELECT v.sku, p.slug AS product, v.price, v.was_price AS wasPrice,
           v.stock + coalesce((SELECT sum(quantity) FROM order_hold h WHERE h.sku = v.sku), 0) AS stock
         FROM variant v JOIN product p ON p.id = v.product_id ORDER BY v.sku`,
      )
      .iterate() as IterableIterator<FigureRow>;
  }

  /** The change by which goods last came from another system, and how many records it changed. */
  last(): { at: string; by: string; records: number } | null {
    const sql = `SELECT c.at, c.by, (SELECT count(*) FROM goods_record r WHERE r.change_id = c.id) AS records
      FROM goods_change c WHERE c.title = ? ORDER BY c.id DESC LIMIT 1`;
    return this.sql.get<{ at: string; by: string; records: number }>(sql, feedTitle) ?? null;
  }

  /** Changes after a cursor, the oldest first. */
  changes(after: number, most: number): ChangedRecord[] {
    return this.sql.all(
      `SELECT r.id AS cursor, r.kind, r.slug, r.what, c.at, c.by, c.title
       FROM goods_record r JOIN goods_change c ON c.id = r.change_id WHERE r.id > ? ORDER BY r.id LIMIT ?`,
      after,
      most,
    );
  }
}

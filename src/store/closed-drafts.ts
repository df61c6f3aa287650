import type { Statements } from './statements';

/** Drafts that only those who see the source may see. */
export class ClosedDrafts {
  constructor(readonly sql: Statements) {}

  ids(): ReadonlySet<number> {
    return new Set(this.sql.all<{ id: number }>('SELECT state_id AS id FROM closed_draft').map(({ id }) => id));
  }

  has(state: number): boolean {
    return this.sql.get('SELECT 1 FROM closed_draft WHERE state_id = ?', state) !== undefined;
  }

  /** The same by a draft's name in addresses. */
  hasSlug(slug: string): boolean {
    const sql = 'SELECT 1 FROM closed_draft JOIN state ON state.id = state_id WHERE slug = ?';
    return this.sql.get(sql, slug) !== undefined;
  }

  set(state: number, closed: boolean): void {
    const sql = closed
      ? 'INSERT INTO closed_draft (state_id) VALUES (?) ON CONFLICT DO NOTHING'
      : 'DELETE FROM closed_draft WHERE state_id = ?';
    this.sql.run(sql, state);
  }
}

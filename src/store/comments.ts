import type { Statements } from './statements';

export interface CommentRow {
  id: number;
  parent: number | null;
  by: string;
  at: string;
  text: string;
  page: string | null;
  placement: string | null;
  shows: string;
  path: string | null;
  start: number;
  exact: string;
  prefix: string;
  suffix: string;
  doneBy: string | null;
  doneAt: string | null;
}

const columns = `id, parent_id AS parent, said_by AS by, said_at AS at, text, page, placement, shows, path, start, exact, prefix, suffix,
  done_by AS doneBy, done_at AS doneAt`;

/** What is said of places of drafts. */
export class Comments {
  constructor(readonly sql: Statements) {}

  /** Those of a draft with their answers, in the order in which they were made. */
  of(state: number): CommentRow[] {
    return this.sql.all<CommentRow>(`SELECT ${columns} FROM comment WHERE state_id = ? ORDER BY id`, state);
  }

  one(state: number, id: number): CommentRow | null {
    const sql = `SELECT ${columns} FROM comment WHERE state_id = ? AND id = ?`;
    return this.sql.get<CommentRow>(sql, state, id) ?? null;
  }

  add(state: number, row: Omit<CommentRow, 'id' | 'doneBy' | 'doneAt'>): void {
    const sql = `INSERT INTO comment (state_id, parent_id, said_by, said_at, text, page, placement, shows, path, start, exact, prefix, suffix)
      VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`;
    const { parent, by, at, text, page, placement, shows, path, start, exact, prefix, suffix } = row;
    this.sql.run(sql, state, parent, by, at, text, page, placement, shows, path, start, exact, prefix, suffix);
  }

  /** `by` null: it is open again. */
  setDone(id: number, by: string | null, at: string): void {
    this.sql.run('UPDATE comment SET done_by = ?, done_at = ? WHERE id = ?', by, by === null ? null : at, id);
  }

  remove(id: number): void {
    this.sql.run('DELETE FROM comment WHERE id = ?', id);
  }
}

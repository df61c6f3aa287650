import type { Statements } from './statements';

export interface ReviewRow {
  id: number;
  by: string;
  at: string;
  /** Whom it was handed to, as colleagues call them; '' to whoever reviews. */
  whom: string;
  note: string;
  /** The draft's revision when it was handed over. */
  revision: number;
  answer: 'approved' | 'given back' | null;
  answeredBy: string | null;
  answeredAt: string | null;
  answerNote: string | null;
}

const columns = `id, asked_by AS by, asked_at AS at, whom, note, revision, answer, answered_by AS answeredBy, answered_at AS answeredAt, answer_note AS answerNote`;

/** Drafts that were handed over to be looked at, each with what came of it. */
export class Reviews {
  constructor(readonly sql: Statements) {}

  /** The last one of a draft; null: it was never handed over. */
  last(state: number): ReviewRow | null {
    const sql = `SELECT ${columns} FROM review WHERE state_id = ? ORDER BY id DESC LIMIT 1`;
    return this.sql.get<ReviewRow>(sql, state) ?? null;
  }

  ask(
    state: number,
    { by, at, whom, note, revision }: Pick<ReviewRow, 'by' | 'at' | 'whom' | 'note' | 'revision'>,
  ): void {
    const sql = 'INSERT INTO review (state_id, asked_by, asked_at, whom, note, revision) VALUES (?, ?, ?, ?, ?, ?)';
    this.sql.run(sql, state, by, at, whom, note, revision);
  }

  /** Answers one that nobody has answered yet; false: somebody has. */
  answer(id: number, answer: 'approved' | 'given back', by: string, at: string, note: string): boolean {
    const sql = `UPDATE review SET answer = ?, answered_by = ?, answered_at = ?, answer_note = ? WHERE id = ? AND answer IS NULL`;
    return this.sql.run(sql, answer, by, at, note, id).changes > 0;
  }
}

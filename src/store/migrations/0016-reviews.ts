/** Drafts that were handed over to be looked at, and what came of it. Times are ISO 8601, UTC. */
export const reviews = `
CREATE TABLE review (
  id INTEGER PRIMARY KEY,
  state_id INTEGER NOT NULL REFERENCES state(id) ON DELETE CASCADE,
  asked_by TEXT NOT NULL,
  asked_at TEXT NOT NULL,
  whom TEXT NOT NULL,
  note TEXT NOT NULL,
  revision INTEGER NOT NULL,
  answer TEXT CHECK (answer IN ('approved', 'given back')),
  answered_by TEXT,
  answered_at TEXT,
  answer_note TEXT
) STRICT;
CREATE INDEX review_state ON review(state_id, id);
`;

/**
 * What is said of a place of a draft: on a piece that stands on a shelf, by its id; in a file, by what stands there and around it; or of a page. Those that
 * answer another have it as their parent, and no place of their own. Times are ISO 8601, UTC; offsets in UTF-16 units.
 */
export const comments = `
CREATE TABLE comment (
  id INTEGER PRIMARY KEY,
  state_id INTEGER NOT NULL REFERENCES state(id) ON DELETE CASCADE,
  parent_id INTEGER REFERENCES comment(id) ON DELETE CASCADE,
  said_by TEXT NOT NULL,
  said_at TEXT NOT NULL,
  text TEXT NOT NULL,
  page TEXT,
  placement TEXT,
  shows TEXT NOT NULL DEFAULT '',
  path TEXT,
  start INTEGER NOT NULL DEFAULT 0,
  exact TEXT NOT NULL DEFAULT '',
  prefix TEXT NOT NULL DEFAULT '',
  suffix TEXT NOT NULL DEFAULT '',
  done_by TEXT,
  done_at TEXT
) STRICT;
CREATE INDEX comment_state ON comment(state_id, id);
CREATE INDEX comment_parent ON comment(parent_id);
`;

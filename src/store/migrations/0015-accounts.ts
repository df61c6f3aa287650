/** Who may use the workbench, what shows that they are it, and what was done. Secrets are kept as hashes alone. Times are ISO 8601, UTC. */
export const accounts = `
CREATE TABLE account (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE,
  called TEXT NOT NULL,
  role TEXT NOT NULL CHECK (role IN ('owner', 'developer', 'staff', 'reader')),
  password TEXT,
  made_at TEXT NOT NULL,
  seen_at TEXT
) STRICT;

CREATE TABLE session (
  hash TEXT PRIMARY KEY,
  account_id INTEGER NOT NULL REFERENCES account(id) ON DELETE CASCADE,
  made_at TEXT NOT NULL,
  seen_at TEXT NOT NULL,
  until TEXT NOT NULL
) STRICT, WITHOUT ROWID;
CREATE INDEX session_account ON session(account_id);

CREATE TABLE one_time_link (
  hash TEXT PRIMARY KEY,
  account_id INTEGER NOT NULL REFERENCES account(id) ON DELETE CASCADE,
  until TEXT NOT NULL
) STRICT, WITHOUT ROWID;
CREATE INDEX one_time_link_account ON one_time_link(account_id);

CREATE TABLE access_token (
  id INTEGER PRIMARY KEY,
  hash TEXT NOT NULL UNIQUE,
  account_id INTEGER NOT NULL REFERENCES account(id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  rights TEXT NOT NULL,
  made_at TEXT NOT NULL,
  until TEXT NOT NULL,
  seen_at TEXT
) STRICT;
CREATE INDEX access_token_account ON access_token(account_id);

CREATE TABLE identity (
  issuer TEXT NOT NULL,
  subject TEXT NOT NULL,
  account_id INTEGER NOT NULL UNIQUE REFERENCES account(id) ON DELETE CASCADE,
  PRIMARY KEY (issuer, subject)
) STRICT, WITHOUT ROWID;

CREATE TABLE log (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  by TEXT NOT NULL,
  what TEXT NOT NULL,
  about TEXT NOT NULL
) STRICT;
CREATE INDEX log_what ON log(what, id);
CREATE INDEX log_by ON log(by, id);
`;

/**
 * Themes. Bytes stand once, by their hash. A state (a draft, a release) is a stack of layers; the shop's own layer of a
 * draft is the only one that is written. A release keeps a frozen copy of it.
 */
export const theme = `
CREATE TABLE blob (hash TEXT PRIMARY KEY, bytes BLOB NOT NULL) STRICT;

CREATE TABLE layer (
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL CHECK (kind IN ('base', 'add-on', 'shop')),
  name TEXT NOT NULL, version TEXT NOT NULL DEFAULT ''
) STRICT;

CREATE TABLE layer_file (
  layer_id INTEGER NOT NULL REFERENCES layer(id) ON DELETE CASCADE,
  path TEXT NOT NULL, hash TEXT NOT NULL REFERENCES blob(hash), PRIMARY KEY (layer_id, path)
) STRICT, WITHOUT ROWID;

CREATE TABLE state (
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL CHECK (kind IN ('draft', 'release')),
  -- Drafts: their name in addresses. Releases: null.
  slug TEXT UNIQUE, name TEXT NOT NULL, note TEXT NOT NULL DEFAULT '', number INTEGER UNIQUE,
  made_at TEXT NOT NULL, made_by TEXT NOT NULL DEFAULT '',
  -- Goes up with each change: what was made from an older one is not used again.
  revision INTEGER NOT NULL DEFAULT 1
) STRICT;

CREATE TABLE state_layer (
  state_id INTEGER NOT NULL REFERENCES state(id) ON DELETE CASCADE, position INTEGER NOT NULL,
  layer_id INTEGER NOT NULL REFERENCES layer(id), PRIMARY KEY (state_id, position)
) STRICT, WITHOUT ROWID;

CREATE TABLE live (id INTEGER PRIMARY KEY CHECK (id = 1), state_id INTEGER NOT NULL REFERENCES state(id)) STRICT;

-- Every save of every file: hash null says that it was taken away.
CREATE TABLE save (
  id INTEGER PRIMARY KEY, state_id INTEGER NOT NULL REFERENCES state(id) ON DELETE CASCADE, path TEXT NOT NULL,
  hash TEXT REFERENCES blob(hash), saved_at TEXT NOT NULL, saved_by TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX save_file ON save(state_id, path, id);
`;

/**
 * Layers as what they add to another: a release is a layer that is written no more, and the draft goes on in one above it.
 * So a copy of a draft and a release cost nothing, and history takes space by what changed. Saves that belong together are
 * one change, which can be read and taken back as one.
 */
export const history = `
-- The layer that this one adds to; null: it stands by itself.
ALTER TABLE layer ADD COLUMN parent_id INTEGER REFERENCES layer(id);
CREATE INDEX layer_parent ON layer(parent_id);

CREATE TABLE layer_file_now (
  layer_id INTEGER NOT NULL REFERENCES layer(id) ON DELETE CASCADE, path TEXT NOT NULL,
  -- Null: taken away, though the layer's parent has it.
  hash TEXT REFERENCES blob(hash),
  -- Hash of the file in the layers below that this one was taken from; null: there was none.
  origin TEXT REFERENCES blob(hash),
  PRIMARY KEY (layer_id, path)
) STRICT, WITHOUT ROWID;
INSERT INTO layer_file_now (layer_id, path, hash) SELECT layer_id, path, hash FROM layer_file;
DROP TABLE layer_file;
ALTER TABLE layer_file_now RENAME TO layer_file;
CREATE INDEX layer_file_hash ON layer_file(path, hash);

-- A draft that was deleted stays here, with a way back.
ALTER TABLE state ADD COLUMN removed_at TEXT;
-- The state that a draft was copied from, or the draft that a release was made of.
ALTER TABLE state ADD COLUMN from_id INTEGER REFERENCES state(id);

CREATE TABLE change (
  id INTEGER PRIMARY KEY, state_id INTEGER NOT NULL REFERENCES state(id) ON DELETE CASCADE, title TEXT NOT NULL,
  made_at TEXT NOT NULL, made_by TEXT NOT NULL DEFAULT '',
  -- Layers below the shop's own before and after, as JSON lists of their numbers; null: they stayed.
  below_was TEXT, below TEXT,
  -- What saves of one change say, so that those that come one after the other become one; null: nothing.
  together TEXT,
  -- The change that this one takes back.
  undoes INTEGER REFERENCES change(id)
) STRICT;
CREATE INDEX change_state ON change(state_id, id);
INSERT INTO change (id, state_id, title, made_at, made_by) SELECT id, state_id, path, saved_at, saved_by FROM save;

ALTER TABLE save ADD COLUMN change_id INTEGER REFERENCES change(id);
ALTER TABLE save ADD COLUMN was TEXT;
ALTER TABLE save ADD COLUMN origin TEXT;
ALTER TABLE save ADD COLUMN origin_was TEXT;
UPDATE save SET change_id = id, was = (
  SELECT b.hash FROM save b WHERE b.state_id = save.state_id AND b.path = save.path AND b.id < save.id ORDER BY b.id DESC LIMIT 1
);
CREATE INDEX save_change ON save(change_id);
CREATE INDEX save_path ON save(path, id);

-- What was live when, the latest last: its number tells whether live is still what someone looked at.
CREATE TABLE went_live (
  id INTEGER PRIMARY KEY, state_id INTEGER NOT NULL REFERENCES state(id), at TEXT NOT NULL, by TEXT NOT NULL DEFAULT ''
) STRICT;
INSERT INTO went_live (state_id, at, by) SELECT id, made_at, made_by FROM state WHERE kind = 'release' ORDER BY number;

-- Layers of other drafts whose changes were brought into a draft: what merges begin from the next time.
CREATE TABLE brought (
  state_id INTEGER NOT NULL REFERENCES state(id) ON DELETE CASCADE, layer_id INTEGER NOT NULL REFERENCES layer(id),
  PRIMARY KEY (state_id, layer_id)
) STRICT, WITHOUT ROWID;
`;

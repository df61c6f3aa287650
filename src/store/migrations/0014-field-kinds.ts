/**
 * Custom fields of content and articles too; with help for who fills them in, the choices that their values are of, and whether they
 * hold several values, one a line. SQLite cannot change a check: the tables are made anew.
 */
export const fieldKinds = `
CREATE TABLE new_definition (
  id INTEGER PRIMARY KEY, subject TEXT NOT NULL CHECK (subject IN ('product', 'category', 'content', 'article')),
  key TEXT NOT NULL, name TEXT NOT NULL,
  type TEXT NOT NULL CHECK (type IN ('text', 'html', 'number', 'flag', 'day', 'link', 'picture')),
  unit TEXT NOT NULL DEFAULT '', help TEXT NOT NULL DEFAULT '', choices TEXT NOT NULL DEFAULT '[]',
  several INTEGER NOT NULL DEFAULT 0 CHECK (several IN (0, 1)), position INTEGER NOT NULL DEFAULT 0, UNIQUE (subject, key)
) STRICT;
INSERT INTO new_definition (id, subject, key, name, type, unit, position)
  SELECT id, subject, key, name, type, unit, position FROM field_definition;
CREATE TABLE new_value (
  definition_id INTEGER NOT NULL REFERENCES new_definition(id) ON DELETE CASCADE,
  subject_id INTEGER NOT NULL, value TEXT NOT NULL, PRIMARY KEY (definition_id, subject_id)
) STRICT, WITHOUT ROWID;
INSERT INTO new_value SELECT definition_id, subject_id, value FROM field_value;
DROP TABLE field_value;
DROP TABLE field_definition;
ALTER TABLE new_definition RENAME TO field_definition;
ALTER TABLE new_value RENAME TO field_value;
`;

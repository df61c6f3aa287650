/** What owners set for all who work here, by name; each value is JSON. */
export const settings = `
CREATE TABLE setting (
  name TEXT PRIMARY KEY,
  value TEXT NOT NULL
) STRICT, WITHOUT ROWID;
`;

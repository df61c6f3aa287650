/**
 * Rows of the goods that have changed since they were last written to a file for render nodes, in the order of their changes: the table, and the row's
 * key as a JSON array. It is filled by triggers, which are there only while such files are kept.
 */
export const changedRows = `
CREATE TABLE changed_row (turn INTEGER PRIMARY KEY, of TEXT NOT NULL, key TEXT NOT NULL) STRICT;
`;

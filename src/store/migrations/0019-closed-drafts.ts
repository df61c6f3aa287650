/** Drafts that only those who see the source may see. */
export const closedDrafts = `
CREATE TABLE closed_draft (
  state_id INTEGER PRIMARY KEY REFERENCES state(id) ON DELETE CASCADE
) STRICT;
`;

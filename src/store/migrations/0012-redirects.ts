/** Addresses that lead to others now: those of what got another slug, and those that were written by hand. */
export const redirects = `
CREATE TABLE redirect (path TEXT PRIMARY KEY, target TEXT NOT NULL) STRICT, WITHOUT ROWID;
`;

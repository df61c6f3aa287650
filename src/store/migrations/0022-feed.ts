/** What feeds were answered, by the key that they came under: who asks again is answered the same, and nothing is done twice. */
export const feed = `
CREATE TABLE feed_request (
  key TEXT PRIMARY KEY, hash TEXT NOT NULL, answer TEXT NOT NULL, at TEXT NOT NULL
) STRICT, WITHOUT ROWID;
`;

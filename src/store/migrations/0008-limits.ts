/** The data folder's own key, by which what is handed out is known again; and carts by when they were last changed. */
export const limits = `
CREATE TABLE signing_key (id INTEGER PRIMARY KEY CHECK (id = 1), key BLOB NOT NULL) STRICT;
INSERT INTO signing_key (id, key) VALUES (1, randomblob(32));
CREATE INDEX cart_changed ON cart (changed_at);
`;

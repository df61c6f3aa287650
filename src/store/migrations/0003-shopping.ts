/**
 * What a shop needs to be shopped in: search, counts told beforehand, carts and the orders made of them. The revision goes
 * up with each change of the catalogue: what was made from an older one is not used again.
 */
export const shopping = `
CREATE TABLE catalogue_state (id INTEGER PRIMARY KEY CHECK (id = 1), revision INTEGER NOT NULL) STRICT;
INSERT INTO catalogue_state VALUES (1, 1);

-- Products in it and in those below it, each once: told when the catalogue comes in.
ALTER TABLE category ADD COLUMN product_count INTEGER NOT NULL DEFAULT 0;

-- One row a product and language that has texts of it. Accents and capitals are folded.
CREATE VIRTUAL TABLE product_search USING fts5(
  name, tags, sku, summary, product_id UNINDEXED, locale UNINDEXED, tokenize = 'unicode61 remove_diacritics 2'
);

CREATE TABLE cart (
  id INTEGER PRIMARY KEY, token TEXT NOT NULL UNIQUE, made_at TEXT NOT NULL, changed_at TEXT NOT NULL
) STRICT;

CREATE TABLE cart_line (
  id INTEGER PRIMARY KEY, cart_id INTEGER NOT NULL REFERENCES cart(id) ON DELETE CASCADE,
  product TEXT NOT NULL, sku TEXT NOT NULL, quantity INTEGER NOT NULL CHECK (quantity > 0),
  -- What the customer saw when it was put in, in minor units.
  price INTEGER NOT NULL, name TEXT NOT NULL,
  answers TEXT NOT NULL DEFAULT '[]',
  -- The theme and catalogue whose questions the answers were last held to.
  checked TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX cart_line_cart ON cart_line(cart_id, id);

-- Orders, waiting for whoever fulfils them: the whole order as JSON.
CREATE TABLE outbox (
  id INTEGER PRIMARY KEY, number INTEGER NOT NULL UNIQUE, token TEXT NOT NULL, made_at TEXT NOT NULL, body TEXT NOT NULL
) STRICT;
`;

/**
 * What orders keep of the stock until they are taken: it is not in the variants' stock any more. Whoever sends stock from elsewhere does not know of it
 * yet, so that what is held is taken off what they send.
 */
export const orderHolds = `
CREATE TABLE order_hold (
  number INTEGER NOT NULL, sku TEXT NOT NULL, quantity INTEGER NOT NULL CHECK (quantity > 0), until TEXT,
  PRIMARY KEY (number, sku)
) STRICT, WITHOUT ROWID;
CREATE INDEX order_hold_sku ON order_hold(sku);
`;

/**
 * What became of orders, and what is to be told of them: an order that has no state here is new. An event is due from a moment on until whoever is told
 * has answered; it is told under its key, however often. Orders that were made before stay untold.
 */
export const orders = `
CREATE TABLE order_state (
  number INTEGER PRIMARY KEY, state TEXT NOT NULL CHECK (state IN ('taken', 'cancelled')), at TEXT NOT NULL, by TEXT NOT NULL
) STRICT;
CREATE INDEX outbox_made ON outbox(made_at);

CREATE TABLE order_event (
  id INTEGER PRIMARY KEY, key TEXT NOT NULL UNIQUE, number INTEGER NOT NULL,
  what TEXT NOT NULL CHECK (what IN ('made', 'new', 'taken', 'cancelled')), at TEXT NOT NULL, by TEXT NOT NULL,
  due_at TEXT, sent_at TEXT, tries INTEGER NOT NULL DEFAULT 0, said TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX order_event_number ON order_event(number, id);
CREATE INDEX order_event_due ON order_event(due_at) WHERE due_at IS NOT NULL;
INSERT INTO order_event (key, number, what, at, by)
  SELECT lower(hex(randomblob(16))), number, 'made', made_at, '' FROM outbox ORDER BY number;
`;

/**
 * Every change of goods, record by record: what was added (`after` holds the whole record), removed (`before` does), or changed (both
 * hold the fields that differ), as JSON in the terms of a catalogue file. And what the columns of files that came in were taken for.
 */
export const goods = `
CREATE TABLE goods_change (
  id INTEGER PRIMARY KEY, title TEXT NOT NULL, at TEXT NOT NULL, by TEXT NOT NULL,
  undoes INTEGER REFERENCES goods_change(id)
) STRICT;
CREATE INDEX goods_change_undoes ON goods_change(undoes);

CREATE TABLE goods_record (
  id INTEGER PRIMARY KEY, change_id INTEGER NOT NULL REFERENCES goods_change(id) ON DELETE CASCADE,
  kind TEXT NOT NULL, slug TEXT NOT NULL, what TEXT NOT NULL CHECK (what IN ('added', 'changed', 'removed')),
  before TEXT NOT NULL, after TEXT NOT NULL
) STRICT;
CREATE INDEX goods_record_change ON goods_record(change_id, id);
CREATE INDEX goods_record_subject ON goods_record(kind, slug, id);

-- Rows go with what they belong to: each is found from that side too.
CREATE INDEX variant_value_value ON variant_value(value_id);
CREATE INDEX media_value_value ON media_value(value_id);
CREATE INDEX product_member_member ON product_member(member_id);
CREATE INDEX product_related_related ON product_related(related_id);

CREATE TABLE column_mapping (headings TEXT PRIMARY KEY, columns TEXT NOT NULL, at TEXT NOT NULL) STRICT;
`;

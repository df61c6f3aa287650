/** The catalogue. Texts stand in the shop's first language; other languages' in `translation`. Prices in minor units. */
export const catalogue = `
CREATE TABLE shop (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  name TEXT NOT NULL, currency TEXT NOT NULL, locale TEXT NOT NULL, locales TEXT NOT NULL,
  url TEXT NOT NULL DEFAULT '/', email TEXT NOT NULL DEFAULT ''
) STRICT;

CREATE TABLE translation (
  kind TEXT NOT NULL, id INTEGER NOT NULL, locale TEXT NOT NULL, field TEXT NOT NULL, value TEXT NOT NULL,
  PRIMARY KEY (kind, id, locale, field)
) STRICT, WITHOUT ROWID;

CREATE TABLE brand (
  id INTEGER PRIMARY KEY, slug TEXT NOT NULL UNIQUE, name TEXT NOT NULL, summary TEXT NOT NULL DEFAULT ''
) STRICT;

CREATE TABLE category (
  id INTEGER PRIMARY KEY, parent_id INTEGER REFERENCES category(id) ON DELETE RESTRICT, slug TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL, summary TEXT NOT NULL DEFAULT '', description TEXT NOT NULL DEFAULT '',
  position INTEGER NOT NULL DEFAULT 0, CHECK (parent_id <> id)
) STRICT;
CREATE INDEX category_parent ON category(parent_id, position);

CREATE TABLE tag (id INTEGER PRIMARY KEY, slug TEXT NOT NULL UNIQUE, name TEXT NOT NULL) STRICT;

CREATE TABLE product (
  id INTEGER PRIMARY KEY, slug TEXT NOT NULL UNIQUE, type TEXT NOT NULL DEFAULT '', name TEXT NOT NULL,
  summary TEXT NOT NULL DEFAULT '', description TEXT NOT NULL DEFAULT '',
  brand_id INTEGER REFERENCES brand(id) ON DELETE SET NULL,
  sku TEXT NOT NULL DEFAULT '', gtin TEXT NOT NULL DEFAULT '', added TEXT NOT NULL,
  position INTEGER NOT NULL DEFAULT 0,
  -- Told from the variants whenever those change, so that lists need not load them.
  price INTEGER, price_high INTEGER, was_price INTEGER, stock INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX product_brand ON product(brand_id);
CREATE INDEX product_type ON product(type);
CREATE INDEX product_added ON product(added, id);
CREATE INDEX product_name ON product(name COLLATE NOCASE, id);
CREATE INDEX product_price ON product(price, id);

CREATE TABLE product_tag (
  product_id INTEGER NOT NULL REFERENCES product(id) ON DELETE CASCADE,
  tag_id INTEGER NOT NULL REFERENCES tag(id) ON DELETE CASCADE,
  position INTEGER NOT NULL DEFAULT 0, PRIMARY KEY (product_id, tag_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX product_tag_tag ON product_tag(tag_id, product_id);

CREATE TABLE product_category (
  product_id INTEGER NOT NULL REFERENCES product(id) ON DELETE CASCADE,
  category_id INTEGER NOT NULL REFERENCES category(id) ON DELETE CASCADE,
  position INTEGER NOT NULL DEFAULT 0, PRIMARY KEY (product_id, category_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX product_category_category ON product_category(category_id, product_id);

CREATE TABLE product_member (
  product_id INTEGER NOT NULL REFERENCES product(id) ON DELETE CASCADE,
  member_id INTEGER NOT NULL REFERENCES product(id) ON DELETE CASCADE,
  quantity INTEGER NOT NULL DEFAULT 1 CHECK (quantity > 0), position INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (product_id, member_id), CHECK (product_id <> member_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE product_related (
  product_id INTEGER NOT NULL REFERENCES product(id) ON DELETE CASCADE,
  related_id INTEGER NOT NULL REFERENCES product(id) ON DELETE CASCADE,
  position INTEGER NOT NULL DEFAULT 0, PRIMARY KEY (product_id, related_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE option (
  id INTEGER PRIMARY KEY, product_id INTEGER NOT NULL REFERENCES product(id) ON DELETE CASCADE,
  slug TEXT NOT NULL, name TEXT NOT NULL, position INTEGER NOT NULL DEFAULT 0, UNIQUE (product_id, slug)
) STRICT;

CREATE TABLE option_value (
  id INTEGER PRIMARY KEY, option_id INTEGER NOT NULL REFERENCES option(id) ON DELETE CASCADE,
  slug TEXT NOT NULL, name TEXT NOT NULL, colour TEXT NOT NULL DEFAULT '', position INTEGER NOT NULL DEFAULT 0,
  UNIQUE (option_id, slug)
) STRICT;

CREATE TABLE variant (
  id INTEGER PRIMARY KEY, product_id INTEGER NOT NULL REFERENCES product(id) ON DELETE CASCADE,
  sku TEXT NOT NULL UNIQUE, name TEXT NOT NULL DEFAULT '', price INTEGER NOT NULL, was_price INTEGER,
  stock INTEGER NOT NULL DEFAULT 0, position INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX variant_product ON variant(product_id, position);

CREATE TABLE variant_value (
  variant_id INTEGER NOT NULL REFERENCES variant(id) ON DELETE CASCADE,
  value_id INTEGER NOT NULL REFERENCES option_value(id) ON DELETE CASCADE,
  PRIMARY KEY (variant_id, value_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE media (
  id INTEGER PRIMARY KEY,
  owner TEXT NOT NULL CHECK (owner IN ('product', 'category', 'content', 'article')), owner_id INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('image', 'video', 'embed')), path TEXT NOT NULL, alt TEXT NOT NULL DEFAULT '',
  width INTEGER, height INTEGER, poster TEXT NOT NULL DEFAULT '', position INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX media_owner ON media(owner, owner_id, position);

CREATE TABLE media_value (
  media_id INTEGER NOT NULL REFERENCES media(id) ON DELETE CASCADE,
  value_id INTEGER NOT NULL REFERENCES option_value(id) ON DELETE CASCADE,
  PRIMARY KEY (media_id, value_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE media_file (
  path TEXT PRIMARY KEY, hash TEXT NOT NULL, type TEXT NOT NULL, bytes BLOB NOT NULL
) STRICT;

CREATE TABLE attribute (
  product_id INTEGER NOT NULL REFERENCES product(id) ON DELETE CASCADE,
  name TEXT NOT NULL, value TEXT NOT NULL, visible INTEGER NOT NULL DEFAULT 1, position INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (product_id, name)
) STRICT, WITHOUT ROWID;

CREATE TABLE field_definition (
  id INTEGER PRIMARY KEY, subject TEXT NOT NULL CHECK (subject IN ('product', 'category')), key TEXT NOT NULL,
  name TEXT NOT NULL, type TEXT NOT NULL CHECK (type IN ('text', 'html', 'number', 'flag', 'day', 'link', 'picture')),
  unit TEXT NOT NULL DEFAULT '', position INTEGER NOT NULL DEFAULT 0, UNIQUE (subject, key)
) STRICT;

CREATE TABLE field_value (
  definition_id INTEGER NOT NULL REFERENCES field_definition(id) ON DELETE CASCADE,
  subject_id INTEGER NOT NULL, value TEXT NOT NULL, PRIMARY KEY (definition_id, subject_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE content (
  id INTEGER PRIMARY KEY, slug TEXT NOT NULL UNIQUE, title TEXT NOT NULL, summary TEXT NOT NULL DEFAULT '',
  body TEXT NOT NULL DEFAULT '', added TEXT NOT NULL
) STRICT;

CREATE TABLE article (
  id INTEGER PRIMARY KEY, slug TEXT NOT NULL UNIQUE, title TEXT NOT NULL, summary TEXT NOT NULL DEFAULT '',
  body TEXT NOT NULL DEFAULT '', added TEXT NOT NULL
) STRICT;

CREATE TABLE menu (id INTEGER PRIMARY KEY, slug TEXT NOT NULL UNIQUE, name TEXT NOT NULL) STRICT;

CREATE TABLE menu_item (
  id INTEGER PRIMARY KEY, menu_id INTEGER NOT NULL REFERENCES menu(id) ON DELETE CASCADE,
  parent_id INTEGER REFERENCES menu_item(id) ON DELETE CASCADE,
  label TEXT NOT NULL, target TEXT NOT NULL, position INTEGER NOT NULL DEFAULT 0
) STRICT;
`;

import type { CatalogueFile, MenuItemFile } from '@/contract/catalogue-file';
import type { MediaOwner } from '@/core/catalogue';
import type { Statements } from './statements';
import type { TextKind } from './texts';

/** A sentence about a name that the file uses and does not declare. */
export class CatalogueFileError extends Error {
  override readonly name = 'CatalogueFileError';
}

/** Takes the whole catalogue out, pictures aside; run it in a transaction with what takes its place. */
export function removeCatalogue(sql: Statements): void {
  const tables =
    'translation product_search menu_item menu content article field_value field_definition media product category tag brand shop';
  for (const table of tables.split(' ')) {
    // Categories hold one another: the lowest go first.
    if (table === 'category')
      while (
        sql.run('DELETE FROM category WHERE id NOT IN (SELECT parent_id FROM category WHERE parent_id IS NOT NULL)')
          .changes
      );
    sql.run(`DELETE FROM ${table}`);
  }
}

/** A catalogue whose products may come one by one: a large one need not be in memory. */
export type CatalogueImport = Omit<CatalogueFile, 'products'> & {
  products: Iterable<CatalogueFile['products'][number]>;
};

type FileTexts = Record<string, Record<string, string | undefined>>;

/**
 * Writes a whole catalogue into an empty database; run it in a transaction. `clean` makes rich text safe.
 * A slug that names nothing ends it with a sentence that says where.
 */
export function importCatalogue(sql: Statements, file: CatalogueImport, clean: (markup: string) => string): void {
  const { shop } = file;
  const rich = new Set(['description', 'body']);
  const putTexts = (kind: TextKind, id: number, texts: FileTexts, prefix = '', suffix = ''): void => {
    for (const [locale, fields] of Object.entries(texts)) {
      for (const [field, value] of Object.entries(fields)) {
        if (!value) continue;
        sql.run(
          'INSERT INTO translation (kind, id, locale, field, value) VALUES (?, ?, ?, ?, ?)',
          kind,
          id,
          locale,
          prefix + field + suffix,
          rich.has(field) ? clean(value) : value,
        );
      }
    }
  };
  sql.run(
    'INSERT INTO shop (id, name, currency, locale, locales, email) VALUES (1, ?, ?, ?, ?, ?)',
    shop.name,
    shop.currency,
    shop.locale,
    JSON.stringify(shop.locales),
    shop.email,
  );
  const find = (ids: Map<string, number>, slug: string, what: string): number => {
    const id = ids.get(slug);
    if (id === undefined) throw new CatalogueFileError(`${what} “${slug}” is used, but the file has none of that name`);
    return id;
  };

  const brands = new Map<string, number>();
  for (const { slug, name, summary, texts } of file.brands) {
    const { id } = sql.run('INSERT INTO brand (slug, name, summary) VALUES (?, ?, ?)', slug, name, summary);
    brands.set(slug, id);
    putTexts('brand', id, texts);
  }
  const tags = new Map<string, number>();
  for (const { slug, name, texts } of file.tags) {
    const { id } = sql.run('INSERT INTO tag (slug, name) VALUES (?, ?)', slug, name);
    tags.set(slug, id);
    putTexts('tag', id, texts);
  }

  const definitions = new Map<string, number>();
  file.fields.forEach(({ subject, key, name, type, unit }, position) => {
    const { id } = sql.run(
      'INSERT INTO field_definition (subject, key, name, type, unit, position) VALUES (?, ?, ?, ?, ?, ?)',
      subject,
      key,
      name,
      type,
      unit,
      position,
    );
    definitions.set(`${subject} ${key}`, id);
  });
  const putFields = (subject: string, id: number, fields: Record<string, string>) => {
    for (const [key, value] of Object.entries(fields)) {
      const definition = find(definitions, `${subject} ${key}`, 'The custom field');
      sql.run('INSERT INTO field_value (definition_id, subject_id, value) VALUES (?, ?, ?)', definition, id, value);
    }
  };
  const putMedia = (
    owner: MediaOwner,
    id: number,
    media: CatalogueFile['products'][number]['media'],
    values: Map<string, number>,
  ) => {
    media.forEach(({ kind, path, alt, width, height, poster, shows, texts }, position) => {
      const { id: mediaId } = sql.run(
        'INSERT INTO media (owner, owner_id, kind, path, alt, width, height, poster, position) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)',
        owner,
        id,
        kind,
        path,
        alt,
        width,
        height,
        poster,
        position,
      );
      putTexts('media', mediaId, texts);
      for (const [option, value] of shows) {
        const valueId = find(values, `${option} ${value}`, 'The option value');
        sql.run('INSERT INTO media_value (media_id, value_id) VALUES (?, ?)', mediaId, valueId);
      }
    });
  };

  const categories = new Map<string, number>();
  file.categories.forEach(({ slug, parent, name, summary, description, fields, media, texts }, position) => {
    const { id } = sql.run(
      'INSERT INTO category (parent_id, slug, name, summary, description, position) VALUES (?, ?, ?, ?, ?, ?)',
      parent === null ? null : find(categories, parent, 'The category'),
      slug,
      name,
      summary,
      clean(description),
      position,
    );
    categories.set(slug, id);
    putFields('category', id, fields);
    putMedia('category', id, media, new Map());
    putTexts('category', id, texts);
  });

  const products = new Map<string, number>();
  const pairs: { table: 'member' | 'related'; id: number; others: string[] }[] = [];
  let position = 0;
  for (const product of file.products) {
    const { id } = sql.run(
      `INSERT INTO product (slug, type, name, summary, description, brand_id, sku, gtin, added, position)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      product.slug,
      product.type,
      product.name,
      product.summary,
      clean(product.description),
      product.brand === null ? null : find(brands, product.brand, 'The brand'),
      product.sku,
      product.gtin,
      product.added,
      position++,
    );
    products.set(product.slug, id);
    product.tags.forEach((tag, at) =>
      sql.run(
        'INSERT INTO product_tag (product_id, tag_id, position) VALUES (?, ?, ?)',
        id,
        find(tags, tag, 'The tag'),
        at,
      ),
    );
    product.categories.forEach((category, at) => {
      const categoryId = find(categories, category, 'The category');
      sql.run('INSERT INTO product_category (product_id, category_id, position) VALUES (?, ?, ?)', id, categoryId, at);
    });
    product.attributes.forEach(({ name, value, visible }, at) =>
      sql.run(
        'INSERT INTO attribute (product_id, name, value, visible, position) VALUES (?, ?, ?, ?, ?)',
        id,
        name,
        value,
        visible ? 1 : 0,
        at,
      ),
    );
    putFields('product', id, product.fields);
    const values = putOptions(sql, id, product.options, putTexts);
    product.variants.forEach((variant, at) => {
      const { id: variantId } = sql.run(
        'INSERT INTO variant (product_id, sku, name, price, was_price, stock, position) VALUES (?, ?, ?, ?, ?, ?, ?)',
        id,
        variant.sku,
        variant.name,
        variant.price,
        variant.wasPrice,
        variant.stock,
        at,
      );
      putTexts('variant', variantId, variant.texts);
      for (const [option, value] of Object.entries(variant.values)) {
        const valueId = find(values, `${option} ${value}`, 'The option value');
        sql.run('INSERT INTO variant_value (variant_id, value_id) VALUES (?, ?)', variantId, valueId);
      }
    });
    putMedia('product', id, product.media, values);
    putTexts('product', id, product.texts);
    for (const { name, texts } of product.attributes) putTexts('attribute', id, texts, '', ` ${name}`);
    putTexts('product', id, product.fieldTexts, 'fields.');
    if (product.members.length) pairs.push({ table: 'member', id, others: product.members });
    if (product.related.length) pairs.push({ table: 'related', id, others: product.related });
  }
  // Only now is every product there that another names.
  for (const { table, id, others } of pairs) {
    others.forEach((other, at) =>
      sql.run(
        `INSERT INTO product_${table} (product_id, ${table}_id, position) VALUES (?, ?, ?)`,
        id,
        find(products, other, 'The product'),
        at,
      ),
    );
  }
  tellPrices(sql, null);
  tellCounts(sql);
  tellSearch(sql, shop.locale);

  for (const [table, pages] of [
    ['content', file.content],
    ['article', file.articles],
  ] as const) {
    for (const { slug, title, summary, body, added, media, texts } of pages) {
      const insert = `INSERT INTO ${table} (slug, title, summary, body, added) VALUES (?, ?, ?, ?, ?)`;
      const { id } = sql.run(insert, slug, title, summary, clean(body), added);
      putMedia(table, id, media, new Map());
      putTexts(table, id, texts);
    }
  }
  for (const { slug, name, items } of file.menus) {
    putMenu(sql, sql.run('INSERT INTO menu (slug, name) VALUES (?, ?)', slug, name).id, null, items, putTexts);
  }
  sql.run('UPDATE catalogue_state SET revision = revision + 1, whole = revision + 1');
}

type PutTexts = (kind: TextKind, id: number, texts: FileTexts) => void;

/** Ids of the option values, by `option value`. */
function putOptions(
  sql: Statements,
  productId: number,
  options: CatalogueFile['products'][number]['options'],
  putTexts: PutTexts,
): Map<string, number> {
  const values = new Map<string, number>();
  options.forEach((option, at) => {
    const insert = 'INSERT INTO option (product_id, slug, name, position) VALUES (?, ?, ?, ?)';
    const { id: optionId } = sql.run(insert, productId, option.slug, option.name, at);
    putTexts('option', optionId, option.texts);
    option.values.forEach(({ slug, name, colour, texts }, position) => {
      const { id } = sql.run(
        'INSERT INTO option_value (option_id, slug, name, colour, position) VALUES (?, ?, ?, ?, ?)',
        optionId,
        slug,
        name,
        colour,
        position,
      );
      values.set(`${option.slug} ${slug}`, id);
      putTexts('option_value', id, texts);
    });
  });
  return values;
}

function putMenu(
  sql: Statements,
  menuId: number,
  parentId: number | null,
  items: MenuItemFile[],
  putTexts: PutTexts,
): void {
  items.forEach(({ label, target, children, texts }, position) => {
    const { id } = sql.run(
      'INSERT INTO menu_item (menu_id, parent_id, label, target, position) VALUES (?, ?, ?, ?, ?)',
      menuId,
      parentId,
      label,
      target,
      position,
    );
    putTexts('menu_item', id, texts ?? {});
    putMenu(sql, menuId, id, children ?? [], putTexts);
  });
}

/** Tells products' prices and stock from their variants: of one product, or of all (null). The price before is that of the lowest-priced variant. */
export function tellPrices(sql: Statements, productId: number | null): void {
  sql.run(
    `UPDATE product SET (price, price_high, was_price, stock) = (
       SELECT min(v.price), max(v.price),
         (SELECT w.was_price FROM variant w WHERE w.product_id = product.id ORDER BY w.price, w.position LIMIT 1),
         coalesce(sum(max(v.stock, 0)), 0)
       FROM variant v WHERE v.product_id = product.id)
     WHERE :product IS NULL OR id = :product`,
    { product: productId },
  );
}

/** Tells how many products are in each category and those below it, each once. */
export function tellCounts(sql: Statements): void {
  sql.run(
    `WITH RECURSIVE below(top, id) AS (
       SELECT id, id FROM category UNION SELECT b.top, c.id FROM below b JOIN category c ON c.parent_id = b.id
     ), counted(id, n) AS (
       SELECT b.top, count(DISTINCT pc.product_id) FROM below b JOIN product_category pc ON pc.category_id = b.id GROUP BY b.top
     )
     UPDATE category SET product_count = coalesce((SELECT n FROM counted WHERE counted.id = category.id), 0)`,
  );
}

/**
 * Fills the search again, for all products or for some: a row a product in the first language, and one in each other that has
 * texts of it.
 */
export function tellSearch(sql: Statements, first: string, some: readonly number[] | null = null): void {
  const ids = some && JSON.stringify(some);
  const meant = (id: string) => `(? IS NULL OR ${id} IN (SELECT value FROM json_each(?)))`;
  if (some) sql.run(`DELETE FROM product_search WHERE ${meant('product_id')}`, ids, ids);
  const skus = `p.sku || ' ' || coalesce((SELECT group_concat(v.sku, ' ') FROM variant v WHERE v.product_id = p.id), '')`;
  const tags = (name: string) =>
    `coalesce((SELECT group_concat(${name}, ' ') FROM product_tag pt JOIN tag t ON t.id = pt.tag_id WHERE pt.product_id = p.id), '')`;
  sql.run(
    `INSERT INTO product_search (name, tags, sku, summary, product_id, locale)
     SELECT p.name, ${tags('t.name')}, ${skus}, p.summary, p.id, ? FROM product p WHERE ${meant('p.id')}`,
    first,
    ids,
    ids,
  );
  const text = (field: string) =>
    `coalesce((SELECT value FROM translation x WHERE x.kind = 'product' AND x.id = p.id AND x.locale = l.locale AND x.field = '${field}'), '')`;
  const tag = `coalesce((SELECT value FROM translation x WHERE x.kind = 'tag' AND x.id = t.id AND x.locale = l.locale AND x.field = 'name'), '')`;
  sql.run(
    `INSERT INTO product_search (name, tags, sku, summary, product_id, locale)
     SELECT ${text('name')}, ${tags(tag)}, '', ${text('summary')}, p.id, l.locale
     FROM (SELECT DISTINCT id, locale FROM translation WHERE kind = 'product') l JOIN product p ON p.id = l.id
     WHERE ${meant('p.id')}`,
    ids,
    ids,
  );
}

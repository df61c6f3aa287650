import type { CatalogueFile, MenuItemFile } from '@/contract/catalogue-file';
import type { MediaOwner } from '@/core/catalogue/rows';
import type { Statements } from './statements';

/** A sentence about a name that the file uses and does not declare. */
export class CatalogueFileError extends Error {}

/** Takes the whole catalogue out, pictures aside; run it in a transaction with what takes its place. */
export function removeCatalogue(sql: Statements): void {
  const tables =
    'translation menu_item menu content article field_value field_definition media product category tag brand shop';
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

/**
 * Writes a whole catalogue into an empty database; run it in a transaction. `clean` makes rich text safe.
 * A slug that names nothing ends it with a sentence that says where.
 */
export function importCatalogue(sql: Statements, file: CatalogueFile, clean: (markup: string) => string): void {
  const { shop } = file;
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
  for (const { slug, name, summary } of file.brands) {
    brands.set(slug, sql.run('INSERT INTO brand (slug, name, summary) VALUES (?, ?, ?)', slug, name, summary).id);
  }
  const tags = new Map<string, number>();
  for (const { slug, name } of file.tags)
    tags.set(slug, sql.run('INSERT INTO tag (slug, name) VALUES (?, ?)', slug, name).id);

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
    media.forEach(({ kind, path, alt, width, height, poster, shows }, position) => {
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
      for (const [option, value] of shows) {
        const valueId = find(values, `${option} ${value}`, 'The option value');
        sql.run('INSERT INTO media_value (media_id, value_id) VALUES (?, ?)', mediaId, valueId);
      }
    });
  };

  const categories = new Map<string, number>();
  file.categories.forEach(({ slug, parent, name, summary, description, fields, media }, position) => {
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
  });

  const products = new Map<string, number>();
  file.products.forEach((product, position) => {
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
      position,
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
    const values = putOptions(sql, id, product.options);
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
      for (const [option, value] of Object.entries(variant.values)) {
        const valueId = find(values, `${option} ${value}`, 'The option value');
        sql.run('INSERT INTO variant_value (variant_id, value_id) VALUES (?, ?)', variantId, valueId);
      }
    });
    putMedia('product', id, product.media, values);
  });
  for (const product of file.products) {
    const id = products.get(product.slug) as number;
    product.members.forEach((member, at) =>
      sql.run(
        'INSERT INTO product_member (product_id, member_id, position) VALUES (?, ?, ?)',
        id,
        find(products, member, 'The product'),
        at,
      ),
    );
    product.related.forEach((other, at) =>
      sql.run(
        'INSERT INTO product_related (product_id, related_id, position) VALUES (?, ?, ?)',
        id,
        find(products, other, 'The product'),
        at,
      ),
    );
  }
  tellPrices(sql, null);

  for (const [table, pages] of [
    ['content', file.content],
    ['article', file.articles],
  ] as const) {
    for (const { slug, title, summary, body, added } of pages) {
      const insert = `INSERT INTO ${table} (slug, title, summary, body, added) VALUES (?, ?, ?, ?, ?)`;
      sql.run(insert, slug, title, summary, clean(body), added);
    }
  }
  for (const { slug, name, items } of file.menus) {
    putMenu(sql, sql.run('INSERT INTO menu (slug, name) VALUES (?, ?)', slug, name).id, null, items);
  }
}

/** Ids of the option values, by `option value`. */
function putOptions(
  sql: Statements,
  productId: number,
  options: CatalogueFile['products'][number]['options'],
): Map<string, number> {
  const values = new Map<string, number>();
  options.forEach((option, at) => {
    const insert = 'INSERT INTO option (product_id, slug, name, position) VALUES (?, ?, ?, ?)';
    const { id: optionId } = sql.run(insert, productId, option.slug, option.name, at);
    option.values.forEach(({ slug, name, colour }, position) => {
      const { id } = sql.run(
        'INSERT INTO option_value (option_id, slug, name, colour, position) VALUES (?, ?, ?, ?, ?)',
        optionId,
        slug,
        name,
        colour,
        position,
      );
      values.set(`${option.slug} ${slug}`, id);
    });
  });
  return values;
}

function putMenu(sql: Statements, menuId: number, parentId: number | null, items: MenuItemFile[]): void {
  items.forEach(({ label, target, children }, position) => {
    const { id } = sql.run(
      'INSERT INTO menu_item (menu_id, parent_id, label, target, position) VALUES (?, ?, ?, ?, ?)',
      menuId,
      parentId,
      label,
      target,
      position,
    );
    putMenu(sql, menuId, id, children ?? []);
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

import type {
  AttributeRow,
  BrandRow,
  CatalogueSource,
  CategoryRow,
  FieldDefinition,
  FieldRow,
  FieldSubject,
  ListingSort,
  MediaOwner,
  MediaRow,
  MenuItemRow,
  OptionRow,
  OptionValueRow,
  PageRow,
  ProductFilter,
  ProductRow,
  ShopRow,
  TagRow,
  VariantRow,
} from '@/core/catalogue/rows';
import type { Statements } from './statements';

const productColumns = `id, slug, type, name, summary, description, brand_id AS brandId, sku, gtin, price,
  price_high AS priceHigh, was_price AS wasPrice, stock, added`;

const orders: Record<ListingSort, string> = {
  chosen: 'p.position, p.id',
  name: 'p.name COLLATE NOCASE, p.id',
  price: 'p.price IS NULL, p.price, p.id',
  'price-down': 'p.price IS NULL, p.price DESC, p.id',
  newest: 'p.added DESC, p.id DESC',
};

/** Ids are passed as one JSON list, so that a statement is prepared once for lists of any length. */
const among = 'IN (SELECT value FROM json_each(?))';
const list = (ids: readonly number[]) => JSON.stringify(ids);

/** The catalogue in the database. Each method is one query, two where texts are wanted in another than the first language. */
export class StoredCatalogue implements CatalogueSource {
  #shop: ShopRow | null = null;

  constructor(
    readonly sql: Statements,
    /** Language of the texts; null: the shop's first. */
    readonly locale: string | null = null,
  ) {}

  shop(): ShopRow {
    if (!this.#shop) {
      const row = this.sql.get<Omit<ShopRow, 'locales'> & { locales: string }>(
        'SELECT name, currency, locale, locales, url, email FROM shop',
      );
      this.#shop = row
        ? { ...row, locales: JSON.parse(row.locales) as string[] }
        : { name: '', currency: 'GBP', locale: 'en-GB', locales: ['en-GB'], url: '/', email: '' };
    }
    return this.#shop;
  }

  productBySlug(slug: string): ProductRow | null {
    const row = this.sql.get<ProductRow>(`SELECT ${productColumns} FROM product WHERE slug = ?`, slug);
    return row ? (this.#translated('product', [row])[0] ?? null) : null;
  }

  products(ids: readonly number[]): ProductRow[] {
    if (!ids.length) return [];
    const rows = this.sql.all<ProductRow>(`SELECT ${productColumns} FROM product WHERE id ${among}`, list(ids));
    const byId = new Map(this.#translated('product', rows).map((row) => [row.id, row]));
    return ids.flatMap((id) => byId.get(id) ?? []);
  }

  productIds(filter: ProductFilter, sort: ListingSort, offset: number, limit: number): number[] {
    const { where, values } = this.#where(filter);
    const sql = `SELECT p.id FROM product p ${where} ORDER BY ${orders[sort]} LIMIT ? OFFSET ?`;
    return this.sql.all<{ id: number }>(sql, ...values, limit, offset).map((row) => row.id);
  }

  productCount(filter: ProductFilter): number {
    const { where, values } = this.#where(filter);
    return this.sql.get<{ n: number }>(`SELECT count(*) AS n FROM product p ${where}`, ...values)?.n ?? 0;
  }

  #where(filter: ProductFilter): { where: string; values: unknown[] } {
    const tests: string[] = [];
    const values: unknown[] = [];
    const test = (sql: string, ...given: unknown[]) => {
      tests.push(sql);
      values.push(...given);
    };
    if (filter.categoryId !== undefined) {
      test(
        `p.id IN (WITH RECURSIVE below(id) AS (SELECT ? UNION SELECT c.id FROM category c JOIN below b ON c.parent_id = b.id)
          SELECT pc.product_id FROM product_category pc JOIN below b ON pc.category_id = b.id)`,
        filter.categoryId,
      );
    }
    if (filter.tagId !== undefined) test('p.id IN (SELECT product_id FROM product_tag WHERE tag_id = ?)', filter.tagId);
    if (filter.brandId !== undefined) test('p.brand_id = ?', filter.brandId);
    if (filter.type !== undefined) test('p.type = ?', filter.type);
    for (const word of (filter.search ?? '').split(/\s+/).filter(Boolean).slice(0, 12)) {
      const like = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
      test(
        `(p.name LIKE ? ESCAPE '\\' OR p.summary LIKE ? ESCAPE '\\' OR p.sku LIKE ? ESCAPE '\\'
          OR p.id IN (SELECT pt.product_id FROM product_tag pt JOIN tag t ON t.id = pt.tag_id WHERE t.name LIKE ? ESCAPE '\\'))`,
        like,
        like,
        like,
        like,
      );
    }
    return { where: tests.length ? `WHERE ${tests.join(' AND ')}` : '', values };
  }

  variants(productIds: readonly number[]): VariantRow[] {
    const rows = this.sql.all<Omit<VariantRow, 'valueIds'> & { valueIds: string }>(
      `SELECT v.id, v.product_id AS productId, v.sku, v.name, v.price, v.was_price AS wasPrice, v.stock,
        (SELECT json_group_array(value_id) FROM variant_value WHERE variant_id = v.id) AS valueIds
       FROM variant v WHERE v.product_id ${among} ORDER BY v.product_id, v.position, v.id`,
      list(productIds),
    );
    return this.#translated('variant', rows).map((row) => ({ ...row, valueIds: JSON.parse(row.valueIds) as number[] }));
  }

  options(productIds: readonly number[]): OptionRow[] {
    const rows = this.sql.all<{ id: number; productId: number; slug: string; name: string; values: string }>(
      `SELECT o.id, o.product_id AS productId, o.slug, o.name,
        (SELECT json_group_array(json_object('id', id, 'slug', slug, 'name', name, 'colour', colour))
         FROM (SELECT * FROM option_value WHERE option_id = o.id ORDER BY position, id)) AS "values"
       FROM option o WHERE o.product_id ${among} ORDER BY o.product_id, o.position, o.id`,
      list(productIds),
    );
    return this.#translated('option', rows).map((row) => ({
      ...row,
      values: this.#translated('option_value', JSON.parse(row.values) as OptionValueRow[]),
    }));
  }

  media(owner: MediaOwner, ownerIds: readonly number[]): MediaRow[] {
    const rows = this.sql.all<Omit<MediaRow, 'valueIds'> & { valueIds: string }>(
      `SELECT m.id, m.owner_id AS ownerId, m.kind, m.path, m.alt, m.width, m.height, m.poster,
        (SELECT json_group_array(value_id) FROM media_value WHERE media_id = m.id) AS valueIds
       FROM media m WHERE m.owner = ? AND m.owner_id ${among} ORDER BY m.owner_id, m.position, m.id`,
      owner,
      list(ownerIds),
    );
    return this.#translated('media', rows).map((row) => ({ ...row, valueIds: JSON.parse(row.valueIds) as number[] }));
  }

  tags(productIds: readonly number[]): (TagRow & { productId: number })[] {
    const rows = this.sql.all<TagRow & { productId: number }>(
      `SELECT t.id, t.slug, t.name, pt.product_id AS productId FROM product_tag pt JOIN tag t ON t.id = pt.tag_id
       WHERE pt.product_id ${among} ORDER BY pt.product_id, pt.position, t.name`,
      list(productIds),
    );
    return this.#translated('tag', rows);
  }

  tagBySlug(slug: string): TagRow | null {
    const row = this.sql.get<TagRow>('SELECT id, slug, name FROM tag WHERE slug = ?', slug);
    return row ? (this.#translated('tag', [row])[0] ?? null) : null;
  }

  productCategories(productIds: readonly number[]): { productId: number; categoryId: number }[] {
    return this.sql.all(
      `SELECT product_id AS productId, category_id AS categoryId FROM product_category
       WHERE product_id ${among} ORDER BY product_id, position, category_id`,
      list(productIds),
    );
  }

  categories(): CategoryRow[] {
    const rows = this.sql.all<CategoryRow>(
      `WITH RECURSIVE below(top, id) AS (
         SELECT id, id FROM category UNION SELECT b.top, c.id FROM below b JOIN category c ON c.parent_id = b.id
       ), counted(id, n) AS (
         SELECT b.top, count(DISTINCT pc.product_id) FROM below b JOIN product_category pc ON pc.category_id = b.id GROUP BY b.top
       )
       SELECT c.id, c.parent_id AS parentId, c.slug, c.name, c.summary, c.description, coalesce(n, 0) AS productCount
       FROM category c LEFT JOIN counted ON counted.id = c.id ORDER BY c.position, c.id`,
    );
    return this.#translated('category', rows);
  }

  brands(): BrandRow[] {
    return this.#translated('brand', this.sql.all<BrandRow>('SELECT id, slug, name, summary FROM brand ORDER BY name'));
  }

  attributes(productIds: readonly number[]): AttributeRow[] {
    return this.sql
      .all<Omit<AttributeRow, 'visible'> & { visible: number }>(
        `SELECT product_id AS productId, name, value, visible FROM attribute
         WHERE product_id ${among} ORDER BY product_id, position, name`,
        list(productIds),
      )
      .map((row) => ({ ...row, visible: row.visible === 1 }));
  }

  fieldDefinitions(subject: FieldSubject): FieldDefinition[] {
    return this.sql.all(
      'SELECT key, name, type, unit FROM field_definition WHERE subject = ? ORDER BY position, id',
      subject,
    );
  }

  fields(subject: FieldSubject, ids: readonly number[]): FieldRow[] {
    return this.sql.all(
      `SELECT v.subject_id AS subjectId, d.key, d.type, v.value FROM field_definition d JOIN field_value v ON v.definition_id = d.id
       WHERE d.subject = ? AND v.subject_id ${among} ORDER BY v.subject_id, d.position`,
      subject,
      list(ids),
    );
  }

  members(productIds: readonly number[]): { productId: number; memberId: number }[] {
    return this.sql.all(
      `SELECT product_id AS productId, member_id AS memberId FROM product_member WHERE product_id ${among} ORDER BY product_id, position`,
      list(productIds),
    );
  }

  related(productIds: readonly number[]): { productId: number; relatedId: number }[] {
    return this.sql.all(
      `SELECT product_id AS productId, related_id AS relatedId FROM product_related WHERE product_id ${among} ORDER BY product_id, position`,
      list(productIds),
    );
  }

  contentBySlug(slug: string): PageRow | null {
    return this.#page('content', slug);
  }

  articleBySlug(slug: string): PageRow | null {
    return this.#page('article', slug);
  }

  #page(table: 'content' | 'article', slug: string): PageRow | null {
    const row = this.sql.get<PageRow>(
      `SELECT id, slug, title, summary, body, added FROM ${table} WHERE slug = ?`,
      slug,
    );
    return row ? (this.#translated(table, [row])[0] ?? null) : null;
  }

  contents(): PageRow[] {
    return this.#pages('content');
  }

  articles(): PageRow[] {
    return this.#pages('article');
  }

  #pages(table: 'content' | 'article'): PageRow[] {
    const rows = this.sql.all<PageRow>(`SELECT id, slug, title, summary, body, added FROM ${table} ORDER BY id`);
    return this.#translated(table, rows);
  }

  menus(): { slug: string; name: string }[] {
    return this.sql.all('SELECT slug, name FROM menu ORDER BY id');
  }

  allTags(): TagRow[] {
    return this.#translated('tag', this.sql.all<TagRow>('SELECT id, slug, name FROM tag ORDER BY name'));
  }

  menu(slug: string): MenuItemRow[] {
    const rows = this.sql.all<MenuItemRow>(
      `SELECT i.id, i.parent_id AS parentId, i.label, i.target FROM menu_item i JOIN menu m ON m.id = i.menu_id
       WHERE m.slug = ? ORDER BY i.position, i.id`,
      slug,
    );
    return this.#translated('menu_item', rows);
  }

  /** Puts the texts of the wanted language over those of the first; what is not translated stays. */
  #translated<T extends { id: number }>(kind: string, rows: T[]): T[] {
    if (this.locale === null || !rows.length) return rows;
    const found = this.sql.all<{ id: number; field: string; value: string }>(
      `SELECT id, field, value FROM translation WHERE kind = ? AND locale = ? AND id ${among}`,
      kind,
      this.locale,
      list(rows.map((row) => row.id)),
    );
    const texts = new Map<number, Record<string, string>>();
    for (const { id, field, value } of found) texts.set(id, { ...texts.get(id), [field]: value });
    return rows.map((row) => ({ ...row, ...texts.get(row.id) }));
  }
}

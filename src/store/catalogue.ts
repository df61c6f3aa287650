import {
  type AttributeRow,
  type BrandRow,
  type CategoryRow,
  type FacetValueRow,
  type FieldDefinition,
  type FieldRow,
  type FieldSubject,
  type MediaOwner,
  type MediaRow,
  type MenuItemRow,
  type OptionRow,
  type OptionValueRow,
  type PageRow,
  type ProductRow,
  type ShopRow,
  type TagRow,
  type Untranslated,
  type VariantRow,
  type CatalogueSource,
  type ListingIndex,
  type Redirect,
  Redirects,
  type Split,
} from '@/core/catalogue';
import { readHidden, type Hidden } from './hidden';
import { listingIndex } from './listing-indexes';
import { RevisionCache } from './revision-cache';
import { optionSlugs, productTypes } from './facts';
import type { Statements } from './statements';
import { Texts } from './texts';
import type { RevisedShop } from './visit';

const productColumns = `p.id, p.slug, p.type, p.name, p.summary, p.description, p.brand_id AS brandId, p.sku, p.gtin, p.price,
  p.price_high AS priceHigh, p.was_price AS wasPrice, p.stock, p.added, p.live`;

/** Redirects but those from a page that is there: it is shown, and its slug is its own. */
const redirectsThatHold = `SELECT path, target FROM redirect r
  WHERE path NOT IN ('/', '/cart', '/article', '/listing/all', '/listing/search')
  ${(
    [
      ['/product/', 'product'],
      ['/category/', 'category'],
      ['/content/', 'content'],
      ['/article/', 'article'],
      ['/listing/tag/', 'tag'],
      ['/listing/brand/', 'brand'],
    ] as const
  )
    .map(
      ([before, table]) =>
        `AND NOT (path LIKE '${before}%' AND EXISTS (SELECT 1 FROM ${table} WHERE slug = substr(r.path, ${before.length + 1})))`,
    )
    .join('\n  ')}`;

/** Ids are passed as one JSON list, so that a statement is prepared once for lists of any length. */
const among = 'IN (SELECT value FROM json_each(?))';
const list = (ids: readonly number[]) => JSON.stringify(ids);

type WithValues<T> = Omit<T, 'valueIds'> & { valueIds: string };

const valuesRead = <T extends { valueIds: unknown }>(row: T) => ({
  ...row,
  valueIds: JSON.parse(row.valueIds as string) as number[],
});

/**
 * The catalogue in the database, in one language. Each method is one query.
 * Longer than most files: it has a method for each query of the source that the core asks.
 */
export class StoredCatalogue implements CatalogueSource {
  #shop: RevisedShop | null = null;
  #first: StoredCatalogue | null = null;
  readonly #texts: Texts;
  readonly #cache: RevisionCache;

  constructor(
    readonly sql: Statements,
    /** Language of the texts; null: the shop's first. */
    locale: string | null = null,
    cache = new RevisionCache(),
    /** The shop's row, if this request has read it already. */
    row: RevisedShop | null = null,
  ) {
    this.#cache = cache;
    this.#shop = row;
    const shop = this.shop();
    this.#texts = new Texts(locale === shop.locale ? null : locale);
    cache.at(this.revision);
  }

  get language(): string {
    return this.#texts.locale ?? this.shop().locale;
  }

  inFirst(): StoredCatalogue {
    if (this.#texts.locale === null) return this;
    return (this.#first ??= this.in(null));
  }

  /** The same catalogue, as this request read it, in another language (null: the first). */
  in(locale: string | null): StoredCatalogue {
    return new StoredCatalogue(this.sql, locale, this.#cache, this.#shop);
  }

  /** What is kept out of live; null where nothing is. */
  hidden(): Hidden | null {
    return this.#cache.of('hidden', () => readHidden(this.sql));
  }

  /** Another view of the same catalogue, as this request read it. */
  seenAs<View>(make: (locale: string | null, cache: RevisionCache, row: RevisedShop | null) => View): View {
    return make(this.#texts.locale, this.#cache, this.#shop);
  }

  get untranslated(): readonly Untranslated[] {
    return this.#texts.untranslated;
  }

  /** Goes up with each change of the catalogue. */
  get revision(): number {
    return this.#shop?.revision ?? 0;
  }

  shop(): ShopRow {
    if (!this.#shop) {
      const row = this.sql.get<Omit<ShopRow, 'locales'> & { locales: string; revision: number }>(
        'SELECT name, currency, locale, locales, url, email, revision FROM shop, catalogue_state',
      );
      this.#shop = row
        ? { ...row, locales: JSON.parse(row.locales) as string[] }
        : { name: '', currency: 'GBP', locale: 'en-GB', locales: ['en-GB'], url: '/', email: '', revision: 0 };
    }
    return this.#shop;
  }

  /** A list that every page needs, read once while the catalogue stays as it is. */
  #once<T extends object>(name: string, read: (texts: Texts) => T[]): T[] {
    return this.#cache.of(`${name} ${this.language}`, () => {
      const texts = new Texts(this.#texts.locale);
      const rows = read(texts);
      this.#cache.of(`missing ${name} ${this.language}`, () => texts.untranslated);
      return rows;
    });
  }

  /** Rows that belong to some subjects, read once for the same ones while the catalogue stays as it is. */
  #of<T extends object>(name: string, ids: readonly number[], read: (texts: Texts) => T[]): readonly T[] {
    return ids.length ? this.#cached(`${name} ${ids.join()}`, read) : [];
  }

  /** Rows of one query in this language, with the texts that it lacks noted each time they are asked for. */
  #cached<T extends object>(key: string, read: (texts: Texts) => T[]): readonly T[] {
    const { rows, missing } = this.#cache.rows(`${key} ${this.language}`, () => {
      const texts = new Texts(this.#texts.locale);
      return { rows: read(texts), missing: texts.untranslated };
    });
    for (const one of missing) this.#texts.miss(one);
    return rows as readonly T[];
  }

  used(name: 'category' | 'content' | 'article' | 'menu_item' | 'brand', id: number, list: string = name): void {
    if (this.#texts.locale === null) return;
    const missing = this.#cache.of<readonly Untranslated[]>(`missing ${list} ${this.language}`, () => []);
    for (const one of missing) if (one.id === id) this.#texts.miss(one);
  }

  #one<T extends { id: number; slug: string }>(kind: 'content' | 'article', rows: T[], slug: string): T | null {
    const row = rows.find((one) => one.slug === slug) ?? null;
    if (row) this.used(kind, row.id);
    return row;
  }

  productBySlug(slug: string): ProductRow | null {
    const [row] = this.#cached(`product ${slug}`, (texts) => {
      const rows = this.sql.all<ProductRow>(
        `SELECT ${productColumns}, ${texts.column('product', 'p.id')} FROM product p WHERE p.slug = ?`,
        slug,
      );
      return texts.all('product', rows);
    });
    return row ?? null;
  }

  products(ids: readonly number[]): readonly ProductRow[] {
    return this.#of('products', ids, (texts) => {
      const rows = this.sql.all<ProductRow>(
        `SELECT ${productColumns}, ${texts.column('product', 'p.id')} FROM product p WHERE p.id ${among}`,
        list(ids),
      );
      const byId = new Map(texts.all('product', rows, 'description').map((row) => [row.id, row]));
      return ids.flatMap((id) => byId.get(id) ?? []);
    });
  }

  index(split: Split | null): ListingIndex {
    return listingIndex(this.sql, this.#cache, split, false, (slug) => this.productBySlug(slug)?.id);
  }

  *names(): Iterable<[productId: number, name: string]> {
    const { locale } = this.#texts;
    const name =
      locale === null
        ? 'p.name'
        : `coalesce((SELECT value FROM translation WHERE kind = 'product' AND locale = '${locale.replaceAll("'", "''")}'
            AND id = p.id AND field = 'name'), p.name)`;
    yield* this.sql.db.prepare(`SELECT p.id, ${name} FROM product p`).raw().iterate() as Iterable<[number, string]>;
  }

  facetValues(): FacetValueRow[] {
    return this.#once('facet values', (texts) =>
      this.sql
        .all<{ option: string; value: string; name: string; colour: string; optionId: number; optionName: string }>(
          `WITH one AS (
             SELECT o.slug AS option, min(o.id) AS optionId, v.slug AS value, min(v.id) AS valueId
             FROM option o JOIN option_value v ON v.option_id = o.id GROUP BY o.slug, v.slug
           )
           SELECT one.option, one.value, v.name, v.colour, one.optionId, o.name AS optionName, v.id,
             ${texts.json('option', 'o.id')} AS optionTexts, ${texts.json('option_value', 'v.id')} AS texts
           FROM one JOIN option o ON o.id = one.optionId JOIN option_value v ON v.id = one.valueId`,
        )
        .map((row) => {
          const { option, value, name, colour } = texts.put('option_value', row);
          const named = {
            id: row.optionId,
            name: row.optionName,
            texts: (row as { optionTexts?: string }).optionTexts,
          };
          return { option, value, name, colour, optionName: texts.put('option', named as { name: string }).name };
        }),
    );
  }

  search(words: string, limit: number): number[] {
    const tokens =
      words
        .normalize('NFC')
        .match(/[\p{L}\p{M}\p{N}]+/gu)
        ?.slice(0, 12) ?? [];
    if (!tokens.length) return [];
    const rows = this.sql.all<{ id: number }>(
      `SELECT product_id AS id FROM product_search WHERE product_search MATCH ? AND locale IN (?, ?)
       ORDER BY bm25(product_search, 10, 4, 8, 2), product_id LIMIT ?`,
      tokens.map((token) => `"${token}"*`).join(' '),
      this.language,
      this.shop().locale,
      limit * 2,
    );
    return [...new Set(rows.map(({ id }) => id))].slice(0, limit);
  }

  variants(productIds: readonly number[]): readonly VariantRow[] {
    return this.#of('variants', productIds, (texts) => {
      const rows = this.sql.all<WithValues<VariantRow>>(
        `SELECT v.id, v.product_id AS productId, v.sku, v.name, v.price, v.was_price AS wasPrice, v.stock,
          (SELECT json_group_array(value_id) FROM variant_value WHERE variant_id = v.id) AS valueIds,
          ${texts.column('variant', 'v.id')}
         FROM variant v WHERE v.product_id ${among} ORDER BY v.product_id, v.position, v.id`,
        list(productIds),
      );
      return texts.all('variant', rows).map(valuesRead);
    });
  }

  options(productIds: readonly number[]): readonly OptionRow[] {
    return this.#of('options', productIds, (texts) => {
      const rows = this.sql.all<{ id: number; productId: number; slug: string; name: string; values: string }>(
        `SELECT o.id, o.product_id AS productId, o.slug, o.name, ${texts.column('option', 'o.id')},
          (SELECT json_group_array(json_object('id', id, 'slug', slug, 'name', name, 'colour', colour,
             'texts', json(${texts.json('option_value', 'one.id')})))
           FROM (SELECT * FROM option_value WHERE option_id = o.id ORDER BY position, id) one) AS "values"
         FROM option o WHERE o.product_id ${among} ORDER BY o.product_id, o.position, o.id`,
        list(productIds),
      );
      return texts.all('option', rows).map((row) => ({
        ...row,
        values: texts.all('option_value', JSON.parse(row.values) as OptionValueRow[]),
      }));
    });
  }

  picture(path: string): MediaRow | null {
    const [row] = this.#once(`picture ${path}`, () =>
      this.sql.all<MediaRow>(
        `SELECT 0 AS id, 0 AS ownerId, 'image' AS kind, path, hash, '' AS alt, width, height, '' AS poster FROM media_file WHERE path = ?`,
        path,
      ),
    );
    return row ? { ...row, valueIds: [] } : null;
  }

  media(owner: MediaOwner, ownerIds: readonly number[]): readonly MediaRow[] {
    return this.#of(`media ${owner}`, ownerIds, (texts) => {
      const rows = this.sql.all<WithValues<MediaRow>>(
        `SELECT m.id, m.owner_id AS ownerId, m.kind, m.path, m.alt, m.width, m.height, m.poster, coalesce(f.hash, '') AS hash,
          f.width AS fileWidth, f.height AS fileHeight,
          (SELECT json_group_array(value_id) FROM media_value WHERE media_id = m.id) AS valueIds,
          ${texts.column('media', 'm.id')}
         FROM media m LEFT JOIN media_file f ON f.path = m.path
         WHERE m.owner = ? AND m.owner_id ${among} ORDER BY m.owner_id, m.position, m.id`,
        owner,
        list(ownerIds),
      );
      return texts.all('media', rows).map(valuesRead);
    });
  }

  tags(productIds: readonly number[]): readonly (TagRow & { productId: number })[] {
    return this.#of('tags', productIds, (texts) => {
      const rows = this.sql.all<TagRow & { productId: number }>(
        `SELECT t.id, t.slug, t.name, pt.product_id AS productId, ${texts.column('tag', 't.id')}
         FROM product_tag pt JOIN tag t ON t.id = pt.tag_id
         WHERE pt.product_id ${among} ORDER BY pt.product_id, pt.position, t.name`,
        list(productIds),
      );
      return texts.all('tag', rows);
    });
  }

  tagBySlug(slug: string): TagRow | null {
    return this.allTags().find((row) => row.slug === slug) ?? null;
  }

  allTags(): TagRow[] {
    return this.#once('tags', (texts) =>
      texts.all(
        'tag',
        this.sql.all<TagRow>(`SELECT t.id, t.slug, t.name, ${texts.column('tag', 't.id')} FROM tag t ORDER BY t.name`),
      ),
    );
  }

  productCategories(productIds: readonly number[]): readonly { productId: number; categoryId: number }[] {
    return this.#of('categories', productIds, () => {
      return this.sql.all(
        `SELECT product_id AS productId, category_id AS categoryId FROM product_category
         WHERE product_id ${among} ORDER BY product_id, position, category_id`,
        list(productIds),
      );
    });
  }

  categories(): CategoryRow[] {
    return this.#once('category', (texts) =>
      texts.all(
        'category',
        this.sql.all<CategoryRow>(
          `SELECT c.id, c.parent_id AS parentId, c.slug, c.name, c.summary, c.description, c.product_count AS productCount, c.live,
             ${texts.column('category', 'c.id')}
           FROM category c ORDER BY c.position, c.id`,
        ),
      ),
    );
  }

  brands(): BrandRow[] {
    return this.#once('brand', (texts) =>
      texts.all(
        'brand',
        this.sql.all<BrandRow>(
          `SELECT b.id, b.slug, b.name, b.summary, ${texts.column('brand', 'b.id')} FROM brand b ORDER BY b.name`,
        ),
      ),
    );
  }

  attributes(productIds: readonly number[]): readonly AttributeRow[] {
    return this.#of('attributes', productIds, (texts) => {
      const { locale } = texts;
      const text = (field: string) =>
        locale === null
          ? 'NULL'
          : `(SELECT value FROM translation WHERE kind = 'attribute' AND locale = '${locale.replaceAll("'", "''")}'
              AND id = a.product_id AND field = '${field} ' || a.name)`;
      return this.sql
        .all<Omit<AttributeRow, 'visible'> & { visible: number; named: string | null; valued: string | null }>(
          `SELECT a.product_id AS productId, a.name, a.value, a.visible, ${text('name')} AS named, ${text('value')} AS valued
           FROM attribute a WHERE a.product_id ${among} ORDER BY a.product_id, a.position, a.name`,
          list(productIds),
        )
        .map(({ named, valued, ...row }) => {
          if (row.visible && locale !== null && named === null)
            texts.miss({ kind: 'attribute', id: row.productId, field: row.name, text: row.name });
          return { ...row, name: named ?? row.name, value: valued ?? row.value, visible: row.visible === 1 };
        });
    });
  }

  fieldDefinitions(subject: FieldSubject): FieldDefinition[] {
    return this.#cache.of(`fields ${subject}`, () =>
      this.sql
        .all<Omit<FieldDefinition, 'several' | 'choices'> & { several: number; choices: string }>(
          'SELECT key, name, type, unit, help, choices, several FROM field_definition WHERE subject = ? ORDER BY position, id',
          subject,
        )
        .map((row) => ({
          ...row,
          choices: JSON.parse(row.choices) as string[],
          several: row.several === 1,
        })),
    );
  }

  fields(subject: FieldSubject, ids: readonly number[]): readonly FieldRow[] {
    return this.#of(`fields ${subject}`, ids, (texts) => {
      const { locale } = texts;
      const value =
        locale === null
          ? 'v.value'
          : `coalesce((SELECT value FROM translation WHERE kind = '${subject}' AND locale = '${locale.replaceAll("'", "''")}'
              AND id = v.subject_id AND field = 'fields.' || d.key), v.value)`;
      return this.sql
        .all<Omit<FieldRow, 'several'> & { several: number }>(
          `SELECT v.subject_id AS subjectId, d.key, d.type, d.several, ${value} AS value
           FROM field_definition d JOIN field_value v ON v.definition_id = d.id
           WHERE d.subject = ? AND v.subject_id ${among} ORDER BY v.subject_id, d.position`,
          subject,
          list(ids),
        )
        .map((row) => ({ ...row, several: row.several === 1 }));
    });
  }

  members(productIds: readonly number[]): readonly { productId: number; memberId: number }[] {
    return this.#of('members', productIds, () => {
      return this.sql.all(
        `SELECT product_id AS productId, member_id AS memberId FROM product_member WHERE product_id ${among} ORDER BY product_id, position`,
        list(productIds),
      );
    });
  }

  related(productIds: readonly number[]): readonly { productId: number; relatedId: number }[] {
    return this.#of('related', productIds, () => {
      return this.sql.all(
        `SELECT product_id AS productId, related_id AS relatedId FROM product_related WHERE product_id ${among} ORDER BY product_id, position`,
        list(productIds),
      );
    });
  }

  contentBySlug(slug: string): PageRow | null {
    return this.#one('content', this.contents(), slug);
  }

  articleBySlug(slug: string): PageRow | null {
    return this.#one('article', this.articles(), slug);
  }

  contents(): PageRow[] {
    return this.#pages('content', 'p.id');
  }

  articles(): PageRow[] {
    return this.#pages('article', 'p.added DESC, p.id DESC');
  }

  #pages(table: 'content' | 'article', order: string): PageRow[] {
    return this.#once(table, (texts) =>
      texts.all(
        table,
        this.sql.all<PageRow>(
          `SELECT p.id, p.slug, p.title, p.summary, p.body, p.added, p.live, ${texts.column(table, 'p.id')} FROM ${table} p ORDER BY ${order}`,
        ),
      ),
    );
  }

  redirectRows(): Redirect[] {
    return this.sql.all<Redirect>('SELECT path, target FROM redirect ORDER BY path');
  }

  redirects(): Redirects {
    return this.#cache.of('redirects', () => new Redirects(this.sql.all<Redirect>(redirectsThatHold)));
  }

  productTypes(): string[] {
    return productTypes(this.sql);
  }

  optionSlugs(): string[] {
    return optionSlugs(this.sql);
  }

  menus(): { slug: string; name: string }[] {
    return this.sql.all('SELECT slug, name FROM menu ORDER BY id');
  }

  menu(slug: string): MenuItemRow[] {
    const rows = this.#once(`menu ${slug}`, (texts) =>
      texts.all(
        'menu_item',
        this.sql.all<MenuItemRow>(
          `SELECT i.id, i.parent_id AS parentId, i.label, i.target, ${texts.column('menu_item', 'i.id')}
           FROM menu_item i JOIN menu m ON m.id = i.menu_id WHERE m.slug = ? ORDER BY i.position, i.id`,
          slug,
        ),
      ),
    );
    for (const { id } of rows) this.used('menu_item', id, `menu ${slug}`);
    return rows;
  }
}

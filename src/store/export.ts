import type { CatalogueDraft, MenuItemFile } from '@/contract/catalogue-file';
import {
  fieldSubjects,
  grouped,
  type FieldSubject,
  type MediaOwner,
  type MediaRow,
  type MenuItemRow,
  type OptionRow,
  type CatalogueSource,
  allProducts,
} from '@/core/catalogue';
import type { StoredCatalogue } from './catalogue';
import type { Statements } from './statements';
import type { TextKind } from './texts';

type FileTexts = Record<string, Record<string, string>>;

const textsOfOthers = `
  SELECT kind, id, locale, field, value FROM translation WHERE kind IN ('brand', 'tag', 'category', 'content', 'article', 'menu_item')
  UNION ALL SELECT 'media', m.id, t.locale, t.field, t.value FROM media m JOIN translation t ON t.kind = 'media' AND t.id = m.id
    WHERE m.owner <> 'product'
  ORDER BY locale, field`;
const ofProducts = 'IN (SELECT value FROM some)';
const textsOfProducts = `
  WITH some AS (SELECT value FROM json_each(?)), row(kind, id) AS (
    SELECT 'product', value FROM some UNION ALL SELECT 'attribute', value FROM some
    UNION ALL SELECT 'variant', id FROM variant WHERE product_id ${ofProducts}
    UNION ALL SELECT 'option', id FROM option WHERE product_id ${ofProducts}
    UNION ALL SELECT 'option_value', v.id FROM option_value v JOIN option o ON o.id = v.option_id WHERE o.product_id ${ofProducts}
    UNION ALL SELECT 'media', id FROM media WHERE owner = 'product' AND owner_id ${ofProducts}
  )
  SELECT t.kind, t.id, t.locale, t.field, t.value FROM row JOIN translation t ON t.kind = row.kind AND t.id = row.id
  ORDER BY t.locale, t.field`;

/** Texts in the further languages, by kind of row and number. */
class Translations {
  readonly #byRow = new Map<string, FileTexts>();

  /** Of these products and what belongs to them; null: of all that is no product. */
  constructor(source: StoredCatalogue, products: readonly number[] | null) {
    const rows = source.sql.all<{ kind: string; id: number; locale: string; field: string; value: string }>(
      products ? textsOfProducts : textsOfOthers,
      ...(products ? [JSON.stringify(products)] : []),
    );
    for (const { kind, id, locale, field, value } of rows) {
      const texts = this.#byRow.get(`${kind} ${id}`) ?? {};
      texts[locale] = { ...texts[locale], [field]: value };
      this.#byRow.set(`${kind} ${id}`, texts);
    }
  }

  /** As `{texts}` to be spread into a file's object; nothing where there are none. */
  of(kind: TextKind, id: number, read: (field: string) => string | null = own): { texts?: FileTexts } {
    const texts = this.#read(kind, id, read);
    return texts ? { texts } : {};
  }

  fields(kind: FieldSubject, id: number): { fieldTexts?: FileTexts } {
    const texts = this.#read(kind, id, (field) => (field.startsWith('fields.') ? field.slice(7) : null));
    return texts ? { fieldTexts: texts } : {};
  }

  #read(kind: TextKind, id: number, read: (field: string) => string | null): FileTexts | null {
    const texts: FileTexts = {};
    for (const [locale, fields] of Object.entries(this.#byRow.get(`${kind} ${id}`) ?? {})) {
      const filled = Object.entries(fields).flatMap(([field, value]) => {
        const name = read(field);
        return name === null ? [] : [[name, value] as const];
      });
      if (filled.length) texts[locale] = Object.fromEntries(filled);
    }
    return Object.keys(texts).length ? texts : null;
  }
}

const own = (field: string): string | null => (field.startsWith('fields.') ? null : field);

/** Products as a catalogue file has them, a batch at a time, in the catalogue's order. */
export function* exportProducts(source: StoredCatalogue, ids = allProducts(source)): Generator<ProductRecord[]> {
  const names = namesOf(source);
  for (let at = 0; at < ids.length; at += batch) {
    const some = ids.slice(at, at + batch);
    yield productsOf(source, some, names, new Translations(source, some));
  }
}

/** Products by their slugs, as a catalogue file has them; those that there are. */
export function productRecords(source: StoredCatalogue, slugs: readonly string[]): ProductRecord[] {
  const rows = source.sql.all<{ id: number }>(
    'SELECT id FROM product WHERE slug IN (SELECT value FROM json_each(?))',
    JSON.stringify(slugs),
  );
  return [
    ...exportProducts(
      source,
      rows.map(({ id }) => id),
    ),
  ].flat();
}

/** A whole catalogue as its file: what importCatalogue reads back to the same rows. */
export function exportCatalogue(source: StoredCatalogue): CatalogueDraft {
  return { ...exportOthers(source), products: [...exportProducts(source)].flat() };
}

/** All of a catalogue but its products. */
export function exportOthers(source: StoredCatalogue): Omit<CatalogueDraft, 'products'> {
  const { name, currency, locale, locales, email } = source.shop();
  const texts = new Translations(source, null);
  const brands = source.brands();
  const categories = source.categories();
  const categorySlug = new Map(categories.map((row) => [row.id, row.slug]));
  const categoryIds = categories.map((row) => row.id);
  const places = new Map(
    [...grouped(categories, (row) => row.parentId).values()].flatMap((rows) => rows.map(({ id }, at) => [id, at])),
  );
  const categoryMedia = mediaOf(source, 'category', categoryIds, texts);
  const categoryFields = fieldsOf(source, 'category', categoryIds);
  const pages = (kind: 'content' | 'article', rows: ReturnType<CatalogueSource['contents']>) => {
    const ids = rows.map((row) => row.id);
    const media = mediaOf(source, kind, ids, texts);
    const fields = fieldsOf(source, kind, ids);
    return [...rows]
      .sort((a, b) => a.id - b.id)
      .map(({ id, slug, title, summary, body, added, live }) => ({
        slug,
        live: live === 1,
        title,
        summary,
        body,
        added,
        fields: fields.get(id) ?? {},
        ...texts.fields(kind, id),
        media: media.get(id) ?? [],
        ...texts.of(kind, id),
      }));
  };
  return {
    shop: { name, currency, locale, locales, email },
    brands: brands.map(({ id, slug, name: brand, summary }) => ({
      slug,
      name: brand,
      summary,
      ...texts.of('brand', id),
    })),
    categories: parentsFirst(categories).map((row) => ({
      slug: row.slug,
      parent: row.parentId === null ? null : (categorySlug.get(row.parentId) as string),
      position: places.get(row.id) ?? 0,
      live: row.live === 1,
      name: row.name,
      summary: row.summary,
      description: row.description,
      fields: categoryFields.get(row.id) ?? {},
      ...texts.fields('category', row.id),
      media: categoryMedia.get(row.id) ?? [],
      ...texts.of('category', row.id),
    })),
    tags: source.allTags().map(({ id, slug, name: tag }) => ({ slug, name: tag, ...texts.of('tag', id) })),
    fields: fieldSubjects.flatMap((subject) =>
      source
        .fieldDefinitions(subject)
        .map(({ choices, ...definition }) => ({ subject, ...definition, choices: [...choices] })),
    ),
    content: pages('content', source.contents()),
    articles: pages('article', source.articles()),
    menus: source.menus().map((menu) => ({ ...menu, items: itemsOf(source.menu(menu.slug), null, texts) })),
    redirects: source.redirectRows(),
  };
}

function mediaOf(source: CatalogueSource, owner: MediaOwner, ids: readonly number[], texts: Translations) {
  const rows = grouped(source.media(owner, ids), (row) => row.ownerId);
  return new Map([...rows].map(([id, media]) => [id, media.map((one) => mediaFile(one, [], texts))]));
}

/** A product as a catalogue file has it; texts that there are none of are left out. */
export type ProductRecord = NonNullable<CatalogueDraft['products']>[number];

/** How many products are read at once. */
const batch = 500;

/** Slugs of what products name, by number. */
interface Names {
  brands: ReadonlyMap<number, string>;
  categories: ReadonlyMap<number, string>;
}

const namesOf = (source: StoredCatalogue): Names => ({
  brands: new Map(source.brands().map((row) => [row.id, row.slug])),
  categories: new Map(source.categories().map((row) => [row.id, row.slug])),
});

function slugsOf(source: StoredCatalogue, ids: readonly number[]): Map<number, string> {
  const rows = source.sql.all<{ id: number; slug: string }>(
    'SELECT id, slug FROM product WHERE id IN (SELECT value FROM json_each(?))',
    JSON.stringify([...new Set(ids)]),
  );
  return new Map(rows.map(({ id, slug }) => [id, slug]));
}

function productsOf(
  source: StoredCatalogue,
  ids: readonly number[],
  names: Names,
  texts: Translations,
): ProductRecord[] {
  const rows = source.products(ids);
  const options = grouped(source.options(ids), (row) => row.productId);
  const variants = grouped(source.variants(ids), (row) => row.productId);
  const media = grouped(source.media('product', ids), (row) => row.ownerId);
  const tags = grouped(source.tags(ids), (row) => row.productId);
  const inCategories = grouped(source.productCategories(ids), (row) => row.productId);
  const attributes = grouped(source.attributes(ids), (row) => row.productId);
  const members = grouped(source.members(ids), (row) => row.productId);
  const related = grouped(source.related(ids), (row) => row.productId);
  const fields = fieldsOf(source, 'product', ids);
  const slugs = slugsOf(source, [
    ...[...members.values()].flat().map(({ memberId }) => memberId),
    ...[...related.values()].flat().map(({ relatedId }) => relatedId),
  ]);
  return rows.map((row) => {
    const own = options.get(row.id) ?? [];
    return {
      slug: row.slug,
      live: row.live === 1,
      type: row.type,
      name: row.name,
      summary: row.summary,
      description: row.description,
      brand: row.brandId === null ? null : (names.brands.get(row.brandId) ?? null),
      sku: row.sku,
      gtin: row.gtin,
      added: row.added,
      tags: (tags.get(row.id) ?? []).map(({ slug }) => slug),
      categories: (inCategories.get(row.id) ?? []).map(({ categoryId }) => names.categories.get(categoryId) as string),
      attributes: (attributes.get(row.id) ?? []).map(({ name, value, visible }) => ({
        name,
        value,
        visible,
        ...texts.of('attribute', row.id, (field) => {
          const [part = '', ...rest] = field.split(' ');
          return rest.join(' ') === name ? part : null;
        }),
      })),
      fields: fields.get(row.id) ?? {},
      ...texts.fields('product', row.id),
      options: own.map(({ id, slug, name, values }) => ({
        slug,
        name,
        ...texts.of('option', id),
        values: values.map((value) => ({
          slug: value.slug,
          name: value.name,
          colour: value.colour,
          ...texts.of('option_value', value.id),
        })),
      })),
      variants: (variants.get(row.id) ?? []).map(({ id, sku, name, price, wasPrice, stock, valueIds }) => ({
        sku,
        name,
        price,
        wasPrice,
        stock,
        values: Object.fromEntries(named(valueIds, own)),
        ...texts.of('variant', id),
      })),
      media: (media.get(row.id) ?? []).map((one) => mediaFile(one, own, texts)),
      ...texts.of('product', row.id),
      members: (members.get(row.id) ?? []).map(({ memberId }) => slugs.get(memberId) as string),
      related: (related.get(row.id) ?? []).map(({ relatedId }) => slugs.get(relatedId) as string),
    };
  });
}

/** Option values by their ids, as option and value by slug. */
function named(ids: readonly number[], options: readonly OptionRow[]): [string, string][] {
  return options.flatMap((option) =>
    option.values.flatMap((value): [string, string][] => (ids.includes(value.id) ? [[option.slug, value.slug]] : [])),
  );
}

function mediaFile(
  { id, kind, path, alt, width, height, poster, valueIds }: MediaRow,
  options: readonly OptionRow[],
  texts: Translations,
) {
  return { kind, path, alt, width, height, poster, shows: named(valueIds, options), ...texts.of('media', id) };
}

function fieldsOf(
  source: CatalogueSource,
  subject: FieldSubject,
  ids: readonly number[],
): Map<number, Record<string, string>> {
  const fields = new Map<number, Record<string, string>>();
  for (const { subjectId, key, value } of source.fields(subject, ids))
    fields.set(subjectId, { ...fields.get(subjectId), [key]: value });
  return fields;
}

/** A category comes after the one above it: the file is read in one go. */
function parentsFirst<T extends { id: number; parentId: number | null }>(rows: readonly T[]): T[] {
  const below = grouped(rows, (row) => row.parentId ?? 0);
  const from = (parent: number): T[] => (below.get(parent) ?? []).flatMap((row) => [row, ...from(row.id)]);
  return from(0);
}

function itemsOf(rows: readonly MenuItemRow[], parent: number | null, texts: Translations): MenuItemFile[] {
  return rows
    .filter((row) => row.parentId === parent)
    .map(({ id, label, target }) => {
      const children = itemsOf(rows, id, texts);
      return { label, target, ...texts.of('menu_item', id), ...(children.length ? { children } : {}) };
    });
}

/** Slugs of all options that products have, by alphabet. */
export const optionSlugs = (sql: Statements): string[] =>
  sql.all<{ slug: string }>('SELECT DISTINCT slug FROM option ORDER BY slug').map(({ slug }) => slug);

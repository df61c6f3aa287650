import type { CatalogueDraft, MenuItemFile } from '@/contract/catalogue-file';
import {
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
import type { TextKind } from './texts';

type FileTexts = Record<string, Record<string, string>>;

/** Texts in the further languages, by kind of row and number. */
class Translations {
  readonly #byRow = new Map<string, FileTexts>();

  constructor(source: StoredCatalogue) {
    const rows = source.sql.all<{ kind: string; id: number; locale: string; field: string; value: string }>(
      'SELECT kind, id, locale, field, value FROM translation ORDER BY locale, field',
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

  fields(id: number): { fieldTexts?: FileTexts } {
    const texts = this.#read('product', id, (field) => (field.startsWith('fields.') ? field.slice(7) : null));
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

/** A whole catalogue as its file: what importCatalogue reads back to the same rows. */
export function exportCatalogue(source: StoredCatalogue): CatalogueDraft {
  const { name, currency, locale, locales, email } = source.shop();
  const texts = new Translations(source);
  const brands = source.brands();
  const brandSlug = new Map(brands.map((row) => [row.id, row.slug]));
  const categories = source.categories();
  const categorySlug = new Map(categories.map((row) => [row.id, row.slug]));
  const categoryIds = categories.map((row) => row.id);
  const categoryMedia = mediaOf(source, 'category', categoryIds, texts);
  const categoryFields = fieldsOf(source, 'category', categoryIds);
  const pages = (kind: 'content' | 'article', rows: ReturnType<CatalogueSource['contents']>) => {
    const media = mediaOf(
      source,
      kind,
      rows.map((row) => row.id),
      texts,
    );
    return [...rows]
      .sort((a, b) => a.id - b.id)
      .map(({ id, slug, title, summary, body, added }) => ({
        slug,
        title,
        summary,
        body,
        added,
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
      name: row.name,
      summary: row.summary,
      description: row.description,
      fields: categoryFields.get(row.id) ?? {},
      media: categoryMedia.get(row.id) ?? [],
      ...texts.of('category', row.id),
    })),
    tags: source.allTags().map(({ id, slug, name: tag }) => ({ slug, name: tag, ...texts.of('tag', id) })),
    fields: (['product', 'category'] as const).flatMap((subject) =>
      source.fieldDefinitions(subject).map((definition) => ({ subject, ...definition })),
    ),
    products: productsOf(source, brandSlug, categorySlug, texts),
    content: pages('content', source.contents()),
    articles: pages('article', source.articles()),
    menus: source.menus().map((menu) => ({ ...menu, items: itemsOf(source.menu(menu.slug), null, texts) })),
  };
}

function mediaOf(source: CatalogueSource, owner: MediaOwner, ids: readonly number[], texts: Translations) {
  const rows = grouped(source.media(owner, ids), (row) => row.ownerId);
  return new Map([...rows].map(([id, media]) => [id, media.map((one) => mediaFile(one, [], texts))]));
}

function productsOf(
  source: CatalogueSource,
  brandSlug: ReadonlyMap<number, string>,
  categorySlug: ReadonlyMap<number, string>,
  texts: Translations,
): NonNullable<CatalogueDraft['products']> {
  const ids = allProducts(source);
  const rows = source.products(ids);
  const slugs = new Map(rows.map((row) => [row.id, row.slug]));
  const options = grouped(source.options(ids), (row) => row.productId);
  const variants = grouped(source.variants(ids), (row) => row.productId);
  const media = grouped(source.media('product', ids), (row) => row.ownerId);
  const tags = grouped(source.tags(ids), (row) => row.productId);
  const inCategories = grouped(source.productCategories(ids), (row) => row.productId);
  const attributes = grouped(source.attributes(ids), (row) => row.productId);
  const members = grouped(source.members(ids), (row) => row.productId);
  const related = grouped(source.related(ids), (row) => row.productId);
  const fields = fieldsOf(source, 'product', ids);
  return rows.map((row) => {
    const own = options.get(row.id) ?? [];
    return {
      slug: row.slug,
      type: row.type,
      name: row.name,
      summary: row.summary,
      description: row.description,
      brand: row.brandId === null ? null : (brandSlug.get(row.brandId) ?? null),
      sku: row.sku,
      gtin: row.gtin,
      added: row.added,
      tags: (tags.get(row.id) ?? []).map(({ slug }) => slug),
      categories: (inCategories.get(row.id) ?? []).map(({ categoryId }) => categorySlug.get(categoryId) as string),
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
      ...texts.fields(row.id),
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

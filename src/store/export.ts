import type { CatalogueDraft, MenuItemFile } from '@/contract/catalogue-file';
import { grouped } from '@/core/catalogue/grouped';
import type { CatalogueSource, FieldSubject, MediaRow, MenuItemRow, OptionRow } from '@/core/catalogue/rows';

/** A whole catalogue as its file: what importCatalogue reads back to the same rows. */
export function exportCatalogue(source: CatalogueSource): CatalogueDraft {
  const { name, currency, locale, locales, email } = source.shop();
  const brands = source.brands();
  const brandSlug = new Map(brands.map((row) => [row.id, row.slug]));
  const categories = source.categories();
  const categorySlug = new Map(categories.map((row) => [row.id, row.slug]));
  const categoryIds = categories.map((row) => row.id);
  const categoryMedia = grouped(source.media('category', categoryIds), (row) => row.ownerId);
  const categoryFields = fieldsOf(source, 'category', categoryIds);
  const pages = (rows: ReturnType<CatalogueSource['contents']>) =>
    rows.map(({ slug, title, summary, body, added }) => ({ slug, title, summary, body, added }));
  return {
    shop: { name, currency, locale, locales, email },
    brands: brands.map(({ slug, name: brand, summary }) => ({ slug, name: brand, summary })),
    categories: parentsFirst(categories).map((row) => ({
      slug: row.slug,
      parent: row.parentId === null ? null : (categorySlug.get(row.parentId) as string),
      name: row.name,
      summary: row.summary,
      description: row.description,
      fields: categoryFields.get(row.id) ?? {},
      media: (categoryMedia.get(row.id) ?? []).map((media) => mediaFile(media, [])),
    })),
    tags: source.allTags().map(({ slug, name: tag }) => ({ slug, name: tag })),
    fields: (['product', 'category'] as const).flatMap((subject) =>
      source.fieldDefinitions(subject).map((definition) => ({ subject, ...definition })),
    ),
    products: productsOf(source, brandSlug, categorySlug),
    content: pages(source.contents()),
    articles: pages(source.articles()),
    menus: source.menus().map((menu) => ({ ...menu, items: itemsOf(source.menu(menu.slug), null) })),
  };
}

function productsOf(
  source: CatalogueSource,
  brandSlug: ReadonlyMap<number, string>,
  categorySlug: ReadonlyMap<number, string>,
): NonNullable<CatalogueDraft['products']> {
  const ids = source.productIds({}, 'chosen', 0, source.productCount({}));
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
      attributes: (attributes.get(row.id) ?? []).map(({ name, value, visible }) => ({ name, value, visible })),
      fields: fields.get(row.id) ?? {},
      options: own.map(({ slug, name, values }) => ({
        slug,
        name,
        values: values.map((value) => ({ slug: value.slug, name: value.name, colour: value.colour })),
      })),
      variants: (variants.get(row.id) ?? []).map(({ sku, name, price, wasPrice, stock, valueIds }) => ({
        sku,
        name,
        price,
        wasPrice,
        stock,
        values: Object.fromEntries(named(valueIds, own)),
      })),
      media: (media.get(row.id) ?? []).map((one) => mediaFile(one, own)),
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

function mediaFile({ kind, path, alt, width, height, poster, valueIds }: MediaRow, options: readonly OptionRow[]) {
  return { kind, path, alt, width, height, poster, shows: named(valueIds, options) };
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

/** A category comes behind the one above it: the file is read in one go. */
function parentsFirst<T extends { id: number; parentId: number | null }>(rows: readonly T[]): T[] {
  const below = grouped(rows, (row) => row.parentId ?? 0);
  const from = (parent: number): T[] => (below.get(parent) ?? []).flatMap((row) => [row, ...from(row.id)]);
  return from(0);
}

function itemsOf(rows: readonly MenuItemRow[], parent: number | null): MenuItemFile[] {
  return rows
    .filter((row) => row.parentId === parent)
    .map(({ id, label, target }) => {
      const children = itemsOf(rows, id);
      return { label, target, ...(children.length ? { children } : {}) };
    });
}

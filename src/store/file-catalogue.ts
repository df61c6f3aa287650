import type { CatalogueFile, MenuItemFile } from '@/contract/catalogue-file';
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
  PageRow,
  ProductFilter,
  ProductRow,
  ShopRow,
  TagRow,
  VariantRow,
} from '@/core/catalogue/rows';
import { CatalogueFileError } from './import';

type ProductFile = CatalogueFile['products'][number];
type MediaFile = ProductFile['media'][number];

interface Product {
  row: ProductRow;
  options: OptionRow[];
  variants: VariantRow[];
  media: MediaRow[];
  file: ProductFile;
}

/**
 * A catalogue file as a source of pages, in memory: what the command line renders from, without a database. Its answers are
 * those that the database would give after the same file was brought in.
 */
export class FileCatalogue implements CatalogueSource {
  readonly #file: CatalogueFile;
  readonly #products: Product[];
  readonly #bySlug: Map<string, Product>;
  readonly #tags: TagRow[];
  readonly #brands: BrandRow[];
  readonly #categories: CategoryRow[];
  readonly #categoryMedia: MediaRow[][];
  readonly #menus = new Map<string, MenuItemRow[]>();
  readonly #contents: PageRow[];
  readonly #articles: PageRow[];

  /** `clean` makes rich text safe. A slug that names nothing is refused with a sentence. */
  constructor(file: CatalogueFile, clean: (markup: string) => string) {
    this.#file = file;
    this.#tags = file.tags.map(({ slug, name }, at) => ({ id: at + 1, slug, name }));
    this.#brands = file.brands.map(({ slug, name, summary }, at) => ({ id: at + 1, slug, name, summary }));
    const ids = new Numbers();
    this.#products = file.products.map((product, at) => this.#product(product, at + 1, ids, clean));
    this.#bySlug = new Map(this.#products.map((product) => [product.row.slug, product]));
    this.#categories = file.categories.map(({ slug, parent, name, summary, description }, at) => ({
      id: at + 1,
      parentId: parent === null ? null : place(file.categories.slice(0, at), parent, 'The category') + 1,
      slug,
      name,
      summary,
      description: clean(description),
      productCount: 0,
    }));
    this.#categoryMedia = file.categories.map(({ media }, at) =>
      mediaRows(media, at + 1, ids, (option, value) => missing('The option value', `${option} ${value}`)),
    );
    for (const { slug, items } of file.menus) this.#menus.set(slug, menuRows(items, ids));
    for (const category of this.#categories) category.productCount = this.#below(category.id).size;
    this.#contents = file.content.map((page, at) => ({ id: at + 1, ...page, body: clean(page.body) }));
    this.#articles = file.articles.map((page, at) => ({ id: at + 1, ...page, body: clean(page.body) }));
    this.#checkNames();
  }

  /** Everything that a product names is there. */
  #checkNames(): void {
    for (const { file } of this.#products) {
      for (const tag of file.tags) place(this.#file.tags, tag, 'The tag');
      for (const category of file.categories) place(this.#file.categories, category, 'The category');
      for (const other of [...file.members, ...file.related]) place(this.#file.products, other, 'The product');
      this.#checkFields('product', file.fields);
    }
    for (const category of this.#file.categories) this.#checkFields('category', category.fields);
  }

  #checkFields(subject: FieldSubject, fields: Record<string, string>): void {
    for (const key of Object.keys(fields))
      if (!this.#file.fields.some((one) => one.subject === subject && one.key === key))
        missing('The custom field', `${subject} ${key}`);
  }

  #product(file: ProductFile, id: number, ids: Numbers, clean: (markup: string) => string): Product {
    const values = new Map<string, number>();
    const options = file.options.map((option) => ({
      id: ids.next('option'),
      productId: id,
      slug: option.slug,
      name: option.name,
      values: option.values.map(({ slug, name, colour }) => {
        const valueId = ids.next('value');
        values.set(`${option.slug} ${slug}`, valueId);
        return { id: valueId, slug, name, colour };
      }),
    }));
    const valueId = (option: string, value: string) =>
      values.get(`${option} ${value}`) ?? missing('The option value', `${option} ${value}`);
    const variants = file.variants.map(({ sku, name, price, wasPrice, stock, values: own }) => ({
      id: ids.next('variant'),
      productId: id,
      sku,
      name,
      price,
      wasPrice,
      stock,
      valueIds: Object.entries(own)
        .map(([option, value]) => valueId(option, value))
        .sort((a, b) => a - b),
    }));
    const prices = variants.map(({ price }) => price);
    const lowest = variants.find(({ price }) => price === Math.min(...prices));
    const brand = file.brand === null ? null : place(this.#file.brands, file.brand, 'The brand') + 1;
    const row: ProductRow = {
      id,
      slug: file.slug,
      type: file.type,
      name: file.name,
      summary: file.summary,
      description: clean(file.description),
      brandId: brand,
      sku: file.sku,
      gtin: file.gtin,
      price: lowest?.price ?? null,
      priceHigh: lowest ? Math.max(...prices) : null,
      wasPrice: lowest?.wasPrice ?? null,
      stock: variants.reduce((sum, { stock }) => sum + Math.max(stock, 0), 0),
      added: file.added,
    };
    return { row, options, variants, media: mediaRows(file.media, id, ids, valueId), file };
  }

  shop(): ShopRow {
    return { ...this.#file.shop, url: '/' };
  }

  productBySlug(slug: string): ProductRow | null {
    return this.#bySlug.get(slug)?.row ?? null;
  }

  products(ids: readonly number[]): ProductRow[] {
    return this.#of(ids).map(({ row }) => row);
  }

  #of(ids: readonly number[]): Product[] {
    return ids.flatMap((id) => this.#products[id - 1] ?? []);
  }

  productIds(filter: ProductFilter, sort: ListingSort, offset: number, limit: number): number[] {
    const rows = this.#filtered(filter);
    if (sort !== 'chosen') rows.sort(orders[sort]);
    return rows.slice(offset, offset + limit).map(({ id }) => id);
  }

  productCount(filter: ProductFilter): number {
    return this.#filtered(filter).length;
  }

  #filtered({ categoryId, tagId, brandId, type, search }: ProductFilter): ProductRow[] {
    const below = categoryId === undefined ? null : this.#below(categoryId);
    const tag = tagId === undefined ? null : (this.#tags[tagId - 1]?.slug ?? '');
    const words = (search ?? '').split(/\s+/).filter(Boolean).slice(0, 12).map(asciiLower);
    return this.#products
      .filter(({ row, file }) => {
        if (below && !below.has(row.id)) return false;
        if (tag !== null && !file.tags.includes(tag)) return false;
        if (brandId !== undefined && row.brandId !== brandId) return false;
        if (type !== undefined && row.type !== type) return false;
        if (!words.length) return true;
        const names = file.tags.map((slug) => this.#tags[place(this.#tags, slug, 'The tag')]?.name ?? '');
        const texts = [row.name, row.summary, row.sku, ...names].map(asciiLower);
        return words.every((word) => texts.some((text) => text.includes(word)));
      })
      .map(({ row }) => row);
  }

  /** Ids of the products in a category and in those below it. */
  #below(categoryId: number): Set<number> {
    const slugs = new Set<string>();
    const add = (id: number): void => {
      const row = this.#categories[id - 1];
      if (!row || slugs.has(row.slug)) return;
      slugs.add(row.slug);
      for (const child of this.#categories) if (child.parentId === id) add(child.id);
    };
    add(categoryId);
    const inside = this.#products.filter(({ file }) => file.categories.some((slug) => slugs.has(slug)));
    return new Set(inside.map(({ row }) => row.id));
  }

  variants(productIds: readonly number[]): VariantRow[] {
    return this.#of(productIds).flatMap(({ variants }) => variants);
  }

  options(productIds: readonly number[]): OptionRow[] {
    return this.#of(productIds).flatMap(({ options }) => options);
  }

  media(owner: MediaOwner, ownerIds: readonly number[]): MediaRow[] {
    if (owner === 'product') return this.#of(ownerIds).flatMap(({ media }) => media);
    if (owner !== 'category') return [];
    return ownerIds.flatMap((id) => this.#categoryMedia[id - 1] ?? []);
  }

  tags(productIds: readonly number[]): (TagRow & { productId: number })[] {
    return this.#of(productIds).flatMap(({ row, file }) =>
      file.tags.map((slug) => ({ ...(this.#tags[place(this.#tags, slug, 'The tag')] as TagRow), productId: row.id })),
    );
  }

  tagBySlug(slug: string): TagRow | null {
    return this.#tags.find((tag) => tag.slug === slug) ?? null;
  }

  allTags(): TagRow[] {
    return [...this.#tags].sort((a, b) => byCode(a.name, b.name));
  }

  productCategories(productIds: readonly number[]): { productId: number; categoryId: number }[] {
    return this.#of(productIds).flatMap(({ row, file }) =>
      file.categories.map((slug) => ({
        productId: row.id,
        categoryId: place(this.#file.categories, slug, 'The category') + 1,
      })),
    );
  }

  categories(): CategoryRow[] {
    return this.#categories;
  }

  brands(): BrandRow[] {
    return [...this.#brands].sort((a, b) => byCode(a.name, b.name));
  }

  attributes(productIds: readonly number[]): AttributeRow[] {
    return this.#of(productIds).flatMap(({ row, file }) =>
      file.attributes.map((one) => ({ productId: row.id, ...one })),
    );
  }

  fieldDefinitions(subject: FieldSubject): FieldDefinition[] {
    return this.#file.fields
      .filter((one) => one.subject === subject)
      .map(({ key, name, type, unit }) => ({ key, name, type, unit }));
  }

  fields(subject: FieldSubject, ids: readonly number[]): FieldRow[] {
    const subjects = subject === 'product' ? this.#file.products : this.#file.categories;
    return ids.flatMap((id) =>
      this.fieldDefinitions(subject).flatMap(({ key, type }) => {
        const value = subjects[id - 1]?.fields[key];
        return value === undefined ? [] : [{ subjectId: id, key, type, value }];
      }),
    );
  }

  members(productIds: readonly number[]): { productId: number; memberId: number }[] {
    return this.#of(productIds).flatMap(({ row, file }) =>
      file.members.map((slug) => ({ productId: row.id, memberId: this.#bySlug.get(slug)?.row.id as number })),
    );
  }

  related(productIds: readonly number[]): { productId: number; relatedId: number }[] {
    return this.#of(productIds).flatMap(({ row, file }) =>
      file.related.map((slug) => ({ productId: row.id, relatedId: this.#bySlug.get(slug)?.row.id as number })),
    );
  }

  contentBySlug(slug: string): PageRow | null {
    return this.#contents.find((page) => page.slug === slug) ?? null;
  }

  contents(): PageRow[] {
    return this.#contents;
  }

  articleBySlug(slug: string): PageRow | null {
    return this.#articles.find((page) => page.slug === slug) ?? null;
  }

  articles(): PageRow[] {
    return this.#articles;
  }

  menu(slug: string): MenuItemRow[] {
    return this.#menus.get(slug) ?? [];
  }

  menus(): { slug: string; name: string }[] {
    return this.#file.menus.map(({ slug, name }) => ({ slug, name }));
  }
}

/** Gives out row numbers, each kind from 1. */
class Numbers {
  readonly #last = new Map<string, number>();

  next(kind: string): number {
    const number = (this.#last.get(kind) ?? 0) + 1;
    this.#last.set(kind, number);
    return number;
  }
}

function mediaRows(
  media: readonly MediaFile[],
  ownerId: number,
  ids: Numbers,
  valueId: (option: string, value: string) => number,
): MediaRow[] {
  return media.map(({ kind, path, alt, width, height, poster, shows }) => ({
    id: ids.next('media'),
    ownerId,
    kind,
    path,
    alt,
    width,
    height,
    poster,
    valueIds: shows.map(([option, value]) => valueId(option, value)).sort((a, b) => a - b),
  }));
}

function menuRows(items: readonly MenuItemFile[], ids: Numbers, parentId: number | null = null): MenuItemRow[] {
  return items.flatMap(({ label, target, children }) => {
    const id = ids.next('menu item');
    return [{ id, parentId, label, target }, ...menuRows(children ?? [], ids, id)];
  });
}

function missing(what: string, name: string): never {
  throw new CatalogueFileError(`${what} “${name}” is used, but the file has none of that name`);
}

/** The place of a slug in a list; one that is not there is refused. */
function place(list: readonly { slug: string }[], slug: string, what: string): number {
  const at = list.findIndex((one) => one.slug === slug);
  return at < 0 ? missing(what, slug) : at;
}

const byCode = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** SQLite's NOCASE and LIKE fold the letters of ASCII only. */
const asciiLower = (text: string): string => text.replace(/[A-Z]/g, (letter) => letter.toLowerCase());

const price = (row: ProductRow, none: number): number => row.price ?? none;

const orders: Record<Exclude<ListingSort, 'chosen'>, (a: ProductRow, b: ProductRow) => number> = {
  name: (a, b) => byCode(asciiLower(a.name), asciiLower(b.name)) || a.id - b.id,
  price: (a, b) => price(a, Infinity) - price(b, Infinity) || a.id - b.id,
  'price-down': (a, b) => price(b, -Infinity) - price(a, -Infinity) || a.id - b.id,
  newest: (a, b) => byCode(b.added, a.added) || b.id - a.id,
};

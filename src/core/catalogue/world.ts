import { Day, Html, Money, record, type RecordValue, type Value } from '@/core/language';
import { readPicture } from './picture-part';
import { grouped } from './grouped';
import type { Names } from './listings/listing-index';
import { BrandObject, CategoryObject, ContentObject, MediaObject, MenuItemObject, ProductObject } from './objects';
import type {
  AttributeRow,
  CategoryRow,
  FieldRow,
  FieldSubject,
  FieldType,
  MediaRow,
  OptionRow,
  ProductRow,
  VariantRow,
} from './rows';
import { severalValues } from './rows';
import type { CatalogueSource } from './source';

/**
 * The catalogue as templates see it, for one page: objects over rows. What belongs to several products is loaded for all
 * of them at once, when the first is asked for it. Fields stand in schema.ts.
 */
export class World {
  readonly currency: string;
  /** Paths of the pages above this one: its categories, what it is listed in. Menus mark the way to it. */
  readonly above: Set<string>;
  readonly #categories = new Map<number, CategoryObject>();
  #categoryRows: CategoryRow[] | null = null;
  #rootCategoryId: number | null | undefined;
  #brands: Map<number, BrandObject> | null = null;
  #categoryFields: Map<number, RecordValue> | null = null;
  #categoryFieldRows: Map<number, FieldRow[]> | null = null;
  #categoryMedia: Map<number, MediaObject> | null = null;

  constructor(
    readonly source: CatalogueSource,
    /** Puts the prefix of the state that is shown before a path of the site. */
    readonly address: (path: string) => string,
    /** The path of this page, without prefix and language. */
    readonly path: string,
  ) {
    this.currency = source.shop().currency;
    this.above = new Set();
  }

  /** The address of a picture by its path. The hash in it changes with the content: an answer may be kept for good. */
  mediaAddress(path: string, hash = ''): string {
    if (/^[a-z]+:|^\//i.test(path)) return path;
    const encoded = /^[\w./-]*$/.test(path) ? path : path.split('/').map(encodeURIComponent).join('/');
    const address = `/media/${encoded}`;
    return hash ? `${address}?v=${hash.slice(0, 12)}` : address;
  }

  names(): Names {
    return { locale: this.source.language, all: () => this.source.names() };
  }

  money(amount: number | null): Money | null {
    return amount === null ? null : new Money(amount, this.currency);
  }

  /** Rich text, with its links to paths of this site led to the state that is shown; null for none. */
  html(markup: string): Html | null {
    if (!markup) return null;
    const led = markup.replace(
      /(<a\b[^>]*?\shref=")(\/(?!\/)[^"]*)/g,
      (_, before: string, path: string) => before + this.address(path),
    );
    return new Html(led);
  }

  products(rows: readonly ProductRow[], chosenSku: string | null = null): ProductObject[] {
    const batch = new ProductBatch(this, rows);
    return rows.map((row) => new ProductObject(this, batch, row, chosenSku));
  }

  productsById(ids: readonly number[]): ProductObject[] {
    return this.products(this.source.products(ids));
  }

  brand(id: number | null): BrandObject | null {
    this.#brands ??= new Map(this.source.brands().map((row) => [row.id, new BrandObject(this, row)]));
    return id === null ? null : (this.#brands.get(id) ?? null);
  }

  brandBySlug(slug: string): BrandObject | null {
    return this.brand(this.source.brands().find((row) => row.slug === slug)?.id ?? null);
  }

  categoryRows(): CategoryRow[] {
    return (this.#categoryRows ??= this.source.categories());
  }

  /** The category that all others stand below; null where there is none, or no other. */
  get rootCategoryId(): number | null {
    if (this.#rootCategoryId === undefined) {
      const rows = this.categoryRows();
      const top = rows.filter((row) => row.parentId === null);
      this.#rootCategoryId = top.length === 1 && rows.length > 1 ? (top[0]?.id ?? null) : null;
    }
    return this.#rootCategoryId;
  }

  /** The topmost categories, or those right below the one that stands above all. */
  firstCategories(): CategoryObject[] {
    const rows = this.categoryRows().filter((row) => row.parentId === this.rootCategoryId);
    return rows.flatMap((row) => this.category(row.id) ?? []);
  }

  category(id: number): CategoryObject | null {
    let category = this.#categories.get(id);
    if (!category) {
      const row = this.categoryRows().find((one) => one.id === id);
      if (!row) return null;
      this.source.used('category', id);
      this.#categories.set(id, (category = new CategoryObject(this, row)));
    }
    return category;
  }

  categoryBySlug(slug: string): CategoryObject | null {
    const row = this.categoryRows().find((one) => one.slug === slug);
    return row ? this.category(row.id) : null;
  }

  /** A picture by its path, which belongs to no record. */
  /** A picture by its path, or a part of it: `lamp.jpg#xywh=percent:10,0,50,100`. */
  picture(named: string): MediaObject | null {
    // A name may hold the sign that a part begins with.
    const whole = this.source.picture(named);
    if (whole) return new MediaObject(this, whole, null);
    const { path, part } = readPicture(named);
    const row = path === named ? null : this.source.picture(path);
    return row && new MediaObject(this, row, null, part);
  }

  categoryImage(id: number): MediaObject | null {
    if (!this.#categoryMedia) {
      this.#categoryMedia = new Map();
      for (const row of this.source.media(
        'category',
        this.categoryRows().map((one) => one.id),
      )) {
        if (!this.#categoryMedia.has(row.ownerId))
          this.#categoryMedia.set(row.ownerId, new MediaObject(this, row, null));
      }
    }
    return this.#categoryMedia.get(id) ?? null;
  }

  categoryFields(id: number): RecordValue {
    this.#categoryFields ??= fieldRecords(
      this,
      'category',
      this.categoryRows().map((one) => one.id),
    );
    return this.#categoryFields.get(id) ?? record({});
  }

  /** Slugs of categories and of all above them, each once. */
  categoriesAround(ids: readonly number[]): string[] {
    const rows = this.categoryRows();
    const found = new Map<number, string>();
    for (const id of ids) {
      // A category below itself ends where it comes round.
      for (let at: number | null = id; at !== null && !found.has(at);) {
        const row = rows.find((one) => one.id === at);
        if (!row) break;
        found.set(row.id, row.slug);
        at = row.parentId;
      }
    }
    return [...found.values()];
  }

  /** Custom fields of a category in the shop's first language: what rules ask, whatever language the page is in. Read once for all. */
  categoryFieldRows(id: number): FieldRow[] {
    const ids = this.categoryRows().map((one) => one.id);
    this.#categoryFieldRows ??= grouped(this.source.inFirst().fields('category', ids), (row) => row.subjectId);
    return this.#categoryFieldRows.get(id) ?? [];
  }

  /** Custom fields of a content page or article. */
  pageFields(kind: 'content' | 'article', id: number): RecordValue {
    return fieldRecords(this, kind, [id]).get(id) ?? record({});
  }

  /** The same as rules see them: in the shop's first language. */
  pageFieldRows(kind: 'content' | 'article', id: number): readonly FieldRow[] {
    return this.source.inFirst().fields(kind, [id]);
  }

  content(slug: string): ContentObject | null {
    const row = this.source.contentBySlug(slug);
    return row && new ContentObject(this, 'content', row);
  }

  article(slug: string): ContentObject | null {
    const row = this.source.articleBySlug(slug);
    return row && new ContentObject(this, 'article', row);
  }

  /** Articles, the newest first. */
  articles(offset: number, limit: number): ContentObject[] {
    const rows = this.source.articles().slice(offset, offset + limit);
    const media = grouped(
      this.source.media(
        'article',
        rows.map((row) => row.id),
      ),
      (row) => row.ownerId,
    );
    return rows.map((row) => {
      this.source.used('article', row.id);
      return new ContentObject(this, 'article', row, media.get(row.id) ?? []);
    });
  }

  menu(slug: string): MenuItemObject[] {
    const rows = this.source.menu(slug);
    const below = (parent: number | null): MenuItemObject[] =>
      rows.filter((row) => row.parentId === parent).map((row) => new MenuItemObject(this, row, below(row.id)));
    return below(null);
  }
}

/** Custom fields as typed values, by key, for each subject; every defined key is there, none where it has no value. */
function fieldRecords(world: World, subject: FieldSubject, ids: readonly number[]): Map<number, RecordValue> {
  const definitions = world.source.fieldDefinitions(subject);
  const records = new Map<number, RecordValue>();
  for (const id of ids)
    records.set(id, record(Object.fromEntries(definitions.map(({ key, several }) => [key, several ? [] : null]))));
  for (const row of world.source.fields(subject, ids)) {
    const fields = records.get(row.subjectId);
    if (fields) fields[row.key] = fieldValue(world, row);
  }
  return records;
}

function fieldValue(world: World, { type, several, value }: FieldRow): Value {
  if (!several) return oneValue(world, type, value);
  return severalValues(value)
    .map((one) => oneValue(world, type, one))
    .filter((one) => one !== null);
}

function oneValue(world: World, type: FieldType, value: string): Value {
  if (type === 'number') return Number.isFinite(Number(value)) && value.trim() ? Number(value) : null;
  if (type === 'flag') return value === 'true';
  if (type === 'day') return Day.read(value);
  return type === 'html' ? world.html(value) : value;
}

/** What belongs to the products of one list, each kind loaded once for all of them. */
export class ProductBatch {
  readonly #ids: number[];
  readonly #loaded = new Map<string, Map<number, unknown[]>>();
  #fields: Map<number, RecordValue> | null = null;
  #first: ProductBatch | null = null;

  constructor(
    readonly world: World,
    readonly rows: readonly ProductRow[],
  ) {
    this.#ids = rows.map((row) => row.id);
  }

  /** The same products in the shop's first language: rules must not ask what each language says otherwise. */
  get first(): ProductBatch {
    const source = this.world.source.inFirst();
    if (source === this.world.source) return this;
    return (this.#first ??= new ProductBatch(new World(source, this.world.address, this.world.path), this.rows));
  }

  #of<T>(name: string, id: number, load: (ids: number[]) => readonly T[], key: (row: T) => number): T[] {
    let groups = this.#loaded.get(name) as Map<number, T[]> | undefined;
    if (!groups) this.#loaded.set(name, (groups = grouped(load(this.#ids), key)));
    return groups.get(id) ?? [];
  }

  variants = (id: number): VariantRow[] =>
    this.#of(
      'variants',
      id,
      (ids) => this.world.source.variants(ids),
      (row) => row.productId,
    );
  options = (id: number): OptionRow[] =>
    this.#of(
      'options',
      id,
      (ids) => this.world.source.options(ids),
      (row) => row.productId,
    );
  media = (id: number): MediaRow[] =>
    this.#of(
      'media',
      id,
      (ids) => this.world.source.media('product', ids),
      (row) => row.ownerId,
    );
  tags = (id: number) =>
    this.#of(
      'tags',
      id,
      (ids) => this.world.source.tags(ids),
      (row) => row.productId,
    );
  attributes = (id: number): AttributeRow[] =>
    this.#of(
      'attributes',
      id,
      (ids) => this.world.source.attributes(ids),
      (row) => row.productId,
    );
  categories = (id: number) =>
    this.#of(
      'categories',
      id,
      (ids) => this.world.source.productCategories(ids),
      (row) => row.productId,
    );

  /** Custom fields as they are stored. */
  fieldRows = (id: number): FieldRow[] =>
    this.#of(
      'fields',
      id,
      (ids) => this.world.source.fields('product', ids),
      (row) => row.subjectId,
    );

  fields(id: number): RecordValue {
    this.#fields ??= fieldRecords(this.world, 'product', this.#ids);
    return this.#fields.get(id) ?? record({});
  }

  members = (id: number): ProductObject[] =>
    this.#of(
      'members',
      id,
      (ids) => this.#others(this.world.source.members(ids).map((row) => ({ of: row.productId, other: row.memberId }))),
      (row) => row.of,
    ).map((row) => row.product);

  related = (id: number): ProductObject[] =>
    this.#of(
      'related',
      id,
      (ids) => this.#others(this.world.source.related(ids).map((row) => ({ of: row.productId, other: row.relatedId }))),
      (row) => row.of,
    ).map((row) => row.product);

  /** Products that others name, loaded as one batch of their own. */
  #others(pairs: { of: number; other: number }[]): { of: number; product: ProductObject }[] {
    const rows = this.world.source.products([...new Set(pairs.map((pair) => pair.other))]);
    const products = new Map(this.world.products(rows).map((product, at) => [(rows[at] as ProductRow).id, product]));
    return pairs.flatMap(({ of, other }) => {
      const product = products.get(other);
      return product ? [{ of, product }] : [];
    });
  }
}

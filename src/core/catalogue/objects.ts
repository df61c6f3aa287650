import { bareRecord, Day, Html, Money, record, RecordValue, type Value } from '../language';
import { grouped } from './grouped';
import type {
  AttributeRow,
  BrandRow,
  CatalogueSource,
  CategoryRow,
  FieldRow,
  FieldSubject,
  MediaRow,
  MenuItemRow,
  OptionRow,
  OptionValueRow,
  PageRow,
  ProductRow,
  TagRow,
  VariantRow,
} from './rows';

/**
 * The catalogue as templates see it, for one page: objects over rows. What belongs to several products is loaded for all
 * of them at once, when the first is asked for it. Fields stand in schema.ts.
 */
export class World {
  readonly currency: string;
  readonly #categories = new Map<number, CategoryObject>();
  #categoryRows: CategoryRow[] | null = null;
  #brands: Map<number, BrandObject> | null = null;
  #categoryFields: Map<number, RecordValue> | null = null;
  #categoryMedia: Map<number, MediaObject> | null = null;

  constructor(
    readonly source: CatalogueSource,
    /** Puts the prefix of the state that is shown before a path of the site. */
    readonly address: (path: string) => string,
    /** The address of a picture by its path. */
    readonly mediaAddress: (path: string) => string,
    /** The path of this page, without prefix. */
    readonly path: string,
  ) {
    this.currency = source.shop().currency;
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

  products(rows: ProductRow[], chosenSku: string | null = null): ProductObject[] {
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

  categoryRows(): CategoryRow[] {
    return (this.#categoryRows ??= this.source.categories());
  }

  category(id: number): CategoryObject | null {
    let category = this.#categories.get(id);
    if (!category) {
      const row = this.categoryRows().find((one) => one.id === id);
      if (!row) return null;
      this.#categories.set(id, (category = new CategoryObject(this, row)));
    }
    return category;
  }

  categoryBySlug(slug: string): CategoryObject | null {
    const row = this.categoryRows().find((one) => one.slug === slug);
    return row ? this.category(row.id) : null;
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

  content(slug: string): ContentObject | null {
    const row = this.source.contentBySlug(slug);
    return row && new ContentObject(this, 'content', row);
  }

  article(slug: string): ContentObject | null {
    const row = this.source.articleBySlug(slug);
    return row && new ContentObject(this, 'article', row);
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
  for (const id of ids) records.set(id, record(Object.fromEntries(definitions.map(({ key }) => [key, null]))));
  for (const row of world.source.fields(subject, ids)) {
    const fields = records.get(row.subjectId);
    if (fields) fields[row.key] = fieldValue(world, row);
  }
  return records;
}

function fieldValue(world: World, { type, value }: FieldRow): Value {
  if (type === 'number') return Number.isFinite(Number(value)) && value.trim() ? Number(value) : null;
  if (type === 'flag') return value === 'true';
  if (type === 'day') return Day.read(value);
  return type === 'html' ? world.html(value) : value;
}

/** What belongs to the products of one list, each kind loaded once for all of them. */
class ProductBatch {
  readonly #ids: number[];
  readonly #loaded = new Map<string, Map<number, unknown[]>>();
  #fields: Map<number, RecordValue> | null = null;

  constructor(
    readonly world: World,
    rows: ProductRow[],
  ) {
    this.#ids = rows.map((row) => row.id);
  }

  #of<T>(name: string, id: number, load: (ids: number[]) => T[], key: (row: T) => number): T[] {
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

export class ProductObject extends RecordValue {
  readonly #world: World;
  readonly #batch: ProductBatch;
  readonly #row: ProductRow;
  readonly #chosenSku: string | null;
  #variants: VariantObject[] | null = null;
  #options: OptionObject[] | null = null;
  #media: MediaObject[] | null = null;

  constructor(world: World, batch: ProductBatch, row: ProductRow, chosenSku: string | null) {
    super();
    this.#world = world;
    this.#batch = batch;
    this.#row = row;
    this.#chosenSku = chosenSku;
    identify(this, 'product', row.id);
    this.name = row.name;
    this.slug = row.slug;
    this.url = world.address(`/product/${row.slug}`);
    this.type = row.type;
    this.summary = row.summary;
    this.description = world.html(row.description);
    this.sku = row.sku;
    this.gtin = row.gtin;
    this.price = world.money(row.price);
    this.price_high = row.priceHigh !== null && row.priceHigh !== row.price ? world.money(row.priceHigh) : null;
    this.was_price = world.money(row.wasPrice);
    this.on_sale = row.wasPrice !== null && row.price !== null && row.price < row.wasPrice;
    this.sold_out = row.stock <= 0;
    this.stock = row.stock;
    this.added = Day.read(row.added);
  }

  get brand(): Value {
    return this.#world.brand(this.#row.brandId);
  }
  get options(): OptionObject[] {
    return (this.#options ??= this.#batch.options(this.#row.id).map((row) => new OptionObject(this.#choices(), row)));
  }
  get variants(): VariantObject[] {
    return (this.#variants ??= this.#batch
      .variants(this.#row.id)
      .map((row) => new VariantObject(this.#choices(), row)));
  }
  get variant(): Value {
    const chosen = this.#choices().chosen;
    return this.variants.find((_, at) => this.#batch.variants(this.#row.id)[at] === chosen) ?? null;
  }
  get media(): MediaObject[] {
    return (this.#media ??= this.#batch
      .media(this.#row.id)
      .map((row) => new MediaObject(this.#world, row, this.#choices())));
  }
  get image(): Value {
    const { chosen } = this.#choices();
    const images = this.#batch.media(this.#row.id).filter((row) => row.kind === 'image');
    const fits = images.find(
      (row) => this.#chosenSku !== null && chosen && row.valueIds.some((id) => chosen.valueIds.includes(id)),
    );
    const row = fits ?? images[0];
    return row ? new MediaObject(this.#world, row, this.#choices()) : null;
  }
  get members(): Value {
    return this.#batch.members(this.#row.id);
  }
  get related(): Value {
    return this.#batch.related(this.#row.id);
  }
  get tags(): Value {
    return this.#batch.tags(this.#row.id).map((row) => new TagObject(this.#world, row));
  }
  get categories(): Value {
    return this.#batch.categories(this.#row.id).flatMap((row) => this.#world.category(row.categoryId) ?? []);
  }
  get category(): Value {
    const first = this.#batch.categories(this.#row.id)[0];
    return first ? this.#world.category(first.categoryId) : null;
  }
  get attributes(): Value {
    return this.#batch.attributes(this.#row.id).map(({ name, value, visible }) => record({ name, value, visible }));
  }
  get fields(): Value {
    return this.#batch.fields(this.#row.id);
  }

  #choices(): Choices {
    const variants = this.#batch.variants(this.#row.id);
    const chosen =
      variants.find((row) => row.sku === this.#chosenSku) ??
      variants.find((row) => row.stock > 0) ??
      variants[0] ??
      null;
    return {
      world: this.#world,
      slug: this.#row.slug,
      chosen,
      variants,
      options: this.#batch.options(this.#row.id),
      media: this.#batch.media(this.#row.id),
    };
  }
}

/** What a product offers and which variant is chosen: what its options, values and pictures are told from. */
interface Choices {
  world: World;
  slug: string;
  chosen: VariantRow | null;
  variants: VariantRow[];
  options: OptionRow[];
  media: MediaRow[];
}

const variantAddress = ({ world, slug }: Choices, row: VariantRow): string =>
  world.address(`/product/${slug}?variant=${encodeURIComponent(row.sku)}`);

export class VariantObject extends RecordValue {
  readonly #choices: Choices;
  readonly #row: VariantRow;

  constructor(choices: Choices, row: VariantRow) {
    super();
    this.#choices = choices;
    this.#row = row;
    identify(this, 'variant', row.id);
    this.sku = row.sku;
    this.price = choices.world.money(row.price);
    this.was_price = choices.world.money(row.wasPrice);
    this.stock = row.stock;
    this.sold_out = row.stock <= 0;
    this.url = variantAddress(choices, row);
    this.selected = row === choices.chosen;
  }

  get name(): string {
    return this.#row.name || this.values.map((value) => String(value.name)).join(', ');
  }
  get values(): OptionValueObject[] {
    return this.#choices.options.flatMap((option) =>
      option.values
        .filter((value) => this.#row.valueIds.includes(value.id))
        .map((value) => new OptionValueObject(this.#choices, option, value)),
    );
  }
  get media(): MediaObject[] {
    return this.#choices.media
      .filter((row) => !row.valueIds.length || row.valueIds.some((id) => this.#row.valueIds.includes(id)))
      .map((row) => new MediaObject(this.#choices.world, row, this.#choices));
  }
  get image(): Value {
    return this.media.find((media) => media.kind === 'image') ?? null;
  }
}

export class OptionObject extends RecordValue {
  readonly #choices: Choices;
  readonly #row: OptionRow;

  constructor(choices: Choices, row: OptionRow) {
    super();
    this.#choices = choices;
    this.#row = row;
    identify(this, 'option', row.id);
    this.name = row.name;
    this.slug = row.slug;
  }

  get values(): Value {
    return this.#row.values.map((value) => new OptionValueObject(this.#choices, this.#row, value));
  }
}

export class OptionValueObject extends RecordValue {
  readonly #choices: Choices;
  readonly #option: OptionRow;
  readonly #row: OptionValueRow;

  constructor(choices: Choices, option: OptionRow, row: OptionValueRow) {
    super();
    this.#choices = choices;
    this.#option = option;
    this.#row = row;
    identify(this, 'value', row.id);
    this.name = row.name;
    this.slug = row.slug;
    this.colour = row.colour || null;
    this.selected = choices.chosen?.valueIds.includes(row.id) ?? false;
  }

  /** The variant that choosing this value leads to: with the other chosen values when there is one, else the first with it. */
  get #variant(): VariantRow | null {
    const { chosen, variants } = this.#choices;
    const siblings = new Set(this.#option.values.map((value) => value.id));
    const wanted = [...(chosen?.valueIds.filter((id) => !siblings.has(id)) ?? []), this.#row.id];
    const holding = variants.filter((row) => row.valueIds.includes(this.#row.id));
    return (
      holding.find((row) => wanted.every((id) => row.valueIds.includes(id))) ??
      holding.find((row) => row.stock > 0) ??
      holding[0] ??
      null
    );
  }
  get url(): Value {
    const variant = this.#variant;
    return variant ? variantAddress(this.#choices, variant) : null;
  }
  get sold_out(): boolean {
    return (this.#variant?.stock ?? 0) <= 0;
  }
  get media(): Value {
    return this.#choices.media
      .filter((row) => row.valueIds.includes(this.#row.id))
      .map((row) => new MediaObject(this.#choices.world, row, this.#choices));
  }
}

export class MediaObject extends RecordValue {
  readonly #row: MediaRow;
  readonly #choices: Choices | null;

  constructor(world: World, row: MediaRow, choices: Choices | null) {
    super();
    this.#row = row;
    this.#choices = choices;
    identify(this, 'media', row.id);
    this.kind = row.kind;
    this.url = row.kind === 'image' ? world.mediaAddress(row.path) : row.path;
    this.alt = row.alt;
    this.width = row.width;
    this.height = row.height;
    this.poster = row.poster ? world.mediaAddress(row.poster) : null;
  }

  get shows(): Value {
    const choices = this.#choices;
    if (!choices) return [];
    return choices.options.flatMap((option) =>
      option.values
        .filter((value) => this.#row.valueIds.includes(value.id))
        .map((value) => new OptionValueObject(choices, option, value)),
    );
  }
}

export class CategoryObject extends RecordValue {
  readonly #world: World;
  readonly #row: CategoryRow;

  constructor(world: World, row: CategoryRow) {
    super();
    this.#world = world;
    this.#row = row;
    identify(this, 'category', row.id);
    this.name = row.name;
    this.slug = row.slug;
    this.url = world.address(`/category/${row.slug}`);
    this.summary = row.summary;
    this.description = world.html(row.description);
    this.root = row.parentId === null;
    this.product_count = row.productCount;
  }

  get image(): Value {
    return this.#world.categoryImage(this.#row.id);
  }
  get parent(): Value {
    return this.#row.parentId === null ? null : this.#world.category(this.#row.parentId);
  }
  get path(): CategoryObject[] {
    const path: CategoryObject[] = [this];
    // A parent that leads back to itself must not hang a page.
    for (
      let at = this.parent as CategoryObject | null;
      at && path.length < 32 && !path.includes(at);
      at = at.parent as CategoryObject | null
    ) {
      path.unshift(at);
    }
    return path;
  }
  get children(): Value {
    const rows = this.#world.categoryRows().filter((row) => row.parentId === this.#row.id);
    return rows.flatMap((row) => this.#world.category(row.id) ?? []);
  }
  get fields(): Value {
    return this.#world.categoryFields(this.#row.id);
  }
}

export class TagObject extends RecordValue {
  constructor(world: World, row: TagRow) {
    super();
    identify(this, 'tag', row.id);
    this.name = row.name;
    this.slug = row.slug;
    this.url = world.address(`/listing/tag/${row.slug}`);
  }
}

export class BrandObject extends RecordValue {
  constructor(world: World, row: BrandRow) {
    super();
    identify(this, 'brand', row.id);
    this.name = row.name;
    this.slug = row.slug;
    this.url = world.address(`/listing/brand/${row.slug}`);
    this.summary = row.summary;
  }
}

/** A content page or an article: they differ in where they stand. */
export class ContentObject extends RecordValue {
  readonly #world: World;
  readonly #owner: 'content' | 'article';
  readonly #id: number;

  constructor(world: World, owner: 'content' | 'article', row: PageRow) {
    super();
    this.#world = world;
    this.#owner = owner;
    this.#id = row.id;
    identify(this, owner, row.id);
    this.title = row.title;
    this.slug = row.slug;
    this.url = world.address(`/${owner}/${row.slug}`);
    this.summary = row.summary;
    this.body = world.html(row.body);
    this.added = Day.read(row.added);
  }

  get image(): Value {
    const row = this.#world.source.media(this.#owner, [this.#id])[0];
    return row ? new MediaObject(this.#world, row, null) : null;
  }
}

export class MenuItemObject extends RecordValue {
  constructor(world: World, row: MenuItemRow, children: MenuItemObject[]) {
    super();
    identify(this, 'menu-item', row.id);
    const own = row.target.startsWith('/') && !row.target.startsWith('//');
    this.label = row.label;
    this.url = own ? world.address(row.target) : row.target;
    this.current = own && row.target === world.path;
    this.children = children;
    if (children.some((child) => child.current)) this.current = true;
  }
}

for (const kind of [
  ProductObject,
  VariantObject,
  OptionObject,
  OptionValueObject,
  MediaObject,
  CategoryObject,
  TagObject,
  BrandObject,
  ContentObject,
  MenuItemObject,
]) {
  bareRecord(kind);
}

function identify(value: RecordValue, kind: string, id: number): void {
  Object.defineProperty(value, RecordValue.key, { value: `${kind}:${id}` });
}

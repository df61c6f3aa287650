import { fieldFact } from './facts';
import type { PicturePart } from './picture-part';
import { bareRecord, Day, record, RecordValue, type Html, type Money, type Value } from '@/core/language';
import type {
  AttributeRow,
  BrandRow,
  CategoryRow,
  FieldRow,
  MediaRow,
  MenuItemRow,
  OptionRow,
  OptionValueRow,
  PageRow,
  ProductRow,
  TagRow,
  VariantRow,
} from './rows';
import type { AddressedKind } from './renames';
import type { CatalogueSource } from './source';
import { asSubject, type RuleSubject } from './subject';

/** What objects ask of the catalogue around them; a `World` is one. */
interface World {
  readonly rootCategoryId: number | null;
  readonly source: Pick<CatalogueSource, 'brands' | 'media' | 'redirects'>;
  pageFields(kind: 'content' | 'article', id: number): RecordValue;
  pageFieldRows(kind: 'content' | 'article', id: number): readonly FieldRow[];
  readonly path: string;
  readonly above: ReadonlySet<string>;
  address(path: string): string;
  mediaAddress(path: string, hash?: string): string;
  money(amount: number | null): Money | null;
  html(markup: string): Html | null;
  brand(id: number | null): BrandObject | null;
  category(id: number): CategoryObject | null;
  categoryRows(): CategoryRow[];
  categoryImage(id: number): MediaObject | null;
  categoryFields(id: number): RecordValue;
  categoryFieldRows(id: number): FieldRow[];
  categoriesAround(ids: readonly number[]): string[];
}

/** Rows about products that are loaded for many at once, each by the number of its product. */
interface ProductBatch {
  readonly first: Pick<ProductBatch, 'attributes' | 'fieldRows'>;
  variants(id: number): VariantRow[];
  options(id: number): OptionRow[];
  media(id: number): MediaRow[];
  tags(id: number): TagRow[];
  attributes(id: number): AttributeRow[];
  categories(id: number): { categoryId: number }[];
  fields(id: number): RecordValue;
  fieldRows(id: number): FieldRow[];
  members(id: number): ProductObject[];
  related(id: number): ProductObject[];
}

/** Longer than most files: one class a kind of object, each small, which name each other. */
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

  [asSubject](): RuleSubject {
    const { slug, type, brandId, price, stock, added, id } = this.#row;
    const [batch, world] = [this.#batch, this.#world];
    return {
      kind: 'product',
      slug,
      facts({ fact, name }) {
        if (fact === 'tag') return batch.tags(id).map((tag) => tag.slug);
        if (fact === 'type') return type || null;
        if (fact === 'category') return world.categoriesAround(batch.categories(id).map((row) => row.categoryId));
        if (fact === 'brand') return world.source.brands().find((brand) => brand.id === brandId)?.slug ?? null;
        if (fact === 'price') return price;
        if (fact === 'stock') return stock;
        if (fact === 'added') return added;
        if (fact === 'slug') return slug;
        if (fact === 'attribute') return batch.first.attributes(id).find((one) => one.name === name)?.value ?? null;
        const field = fact === 'field' ? batch.first.fieldRows(id).find((one) => one.key === name) : undefined;
        return field ? fieldFact(field.type, field.value, field.several) : null;
      },
    };
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

  /**
   * The variant that choosing this value leads to. What is chosen of the options before this one holds; what is chosen of
   * those after it gives way when there is no such variant, or none in stock. So every variant is reachable, and what
   * does not exist is not offered.
   */
  get #variant(): VariantRow | null {
    const { chosen, variants, options } = this.#choices;
    const at = options.findIndex((option) => option.id === this.#option.id);
    const chosenOf = (some: OptionRow[]) =>
      some.flatMap(({ values }) => values.flatMap(({ id }) => (chosen?.valueIds.includes(id) ? [id] : [])));
    const before = chosenOf(options.slice(0, Math.max(0, at)));
    const after = chosenOf(options.slice(at + 1));
    const all = (row: VariantRow, ids: number[]) => ids.every((id) => row.valueIds.includes(id));
    const holding = variants.filter((row) => all(row, [...before, this.#row.id]));
    const same = holding.filter((row) => all(row, after));
    return same.find((row) => row.stock > 0) ?? holding.find((row) => row.stock > 0) ?? same[0] ?? holding[0] ?? null;
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

  constructor(world: World, row: MediaRow, choices: Choices | null, part: PicturePart | null = null) {
    super();
    this.#row = row;
    this.#choices = choices;
    identify(this, 'media', row.id);
    this.kind = row.kind;
    // A film of the shop's own is a file like a picture; an embedded one stands on another site.
    this.url = row.kind === 'embed' ? row.path : world.mediaAddress(row.path, row.hash);
    this.vector = /\.svg$/i.test(row.path);
    this.alt = row.alt;
    // A record says neither, or both as they are: one without the other would be a shape of its own.
    const measured = row.width !== null || row.height !== null;
    this.width = measured ? row.width : (row.fileWidth ?? null);
    this.height = measured ? row.height : (row.fileHeight ?? null);
    // A drawing is one file for every size: it is shown whole.
    if (part && !this.vector) {
      this.url = `${String(this.url)}${String(this.url).includes('?') ? '&' : '?'}part=${part.join(',')}`;
      const share = (side: unknown, percent: number) =>
        typeof side === 'number' ? Math.round((side * percent) / 100) : null;
      this.width = share(this.width, part[2]);
      this.height = share(this.height, part[3]);
    }
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
    remember(world, this, 'category');
    this.summary = row.summary;
    this.description = world.html(row.description);
    this.root = world.rootCategoryId === row.id;
  }

  get product_count(): number {
    return this.#row.productCount;
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

  [asSubject](): RuleSubject {
    const [row, world] = [this.#row, this.#world];
    const above = () =>
      world.categoriesAround(row.parentId === null ? [] : [row.parentId]).filter((one) => one !== row.slug);
    return {
      kind: 'category',
      slug: row.slug,
      facts({ fact, name }) {
        if (fact === 'below') return above();
        if (fact === 'level') return above().length + 1;
        if (fact === 'products') return row.productCount;
        if (fact === 'slug') return row.slug;
        const field = fact === 'field' ? world.categoryFieldRows(row.id).find((one) => one.key === name) : undefined;
        return field ? fieldFact(field.type, field.value) : null;
      },
    };
  }
}

export class TagObject extends RecordValue {
  constructor(world: World, row: TagRow) {
    super();
    identify(this, 'tag', row.id);
    this.name = row.name;
    this.slug = row.slug;
    this.url = world.address(`/listing/tag/${row.slug}`);
    remember(world, this, 'tag');
  }
}

export class BrandObject extends RecordValue {
  constructor(world: World, row: BrandRow) {
    super();
    identify(this, 'brand', row.id);
    this.name = row.name;
    this.slug = row.slug;
    this.url = world.address(`/listing/brand/${row.slug}`);
    remember(world, this, 'brand');
    this.summary = row.summary;
  }
}

/** A content page or an article: they differ in where they stand. */
export class ContentObject extends RecordValue {
  readonly #world: World;
  readonly #owner: 'content' | 'article';
  readonly #id: number;

  #media: readonly MediaRow[] | null;

  constructor(
    world: World,
    owner: 'content' | 'article',
    row: PageRow,
    /** Its pictures, where they were loaded with those of others. */
    media: readonly MediaRow[] | null = null,
  ) {
    super();
    this.#media = media;
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

  [asSubject](): RuleSubject {
    const [slug, added] = [String(this.slug), this.added instanceof Day ? this.added.iso : null];
    return {
      kind: this.#owner,
      slug,
      facts: ({ fact, name }) => {
        if (fact !== 'field') return fact === 'slug' ? slug : fact === 'added' ? added : null;
        const field = this.#world.pageFieldRows(this.#owner, this.#id).find(({ key }) => key === name);
        return field ? fieldFact(field.type, field.value, field.several) : null;
      },
    };
  }

  get fields(): Value {
    return this.#world.pageFields(this.#owner, this.#id);
  }

  get image(): Value {
    this.#media ??= this.#world.source.media(this.#owner, [this.#id]);
    const row = this.#media[0];
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
    const path = row.target.replace(/[?#].*$/, '');
    this.exact = own && path === world.path;
    this.children = children;
    this.current = this.exact || (own && world.above.has(path)) || children.some((child) => child.current);
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

/** Notes the slugs that it had before, so that a template that names one of them still finds it. */
function remember(world: World, value: RecordValue, kind: AddressedKind): void {
  const earlier = world.source.redirects().earlier(kind, String(value.slug));
  if (earlier.length) (value as unknown as Record<symbol, readonly string[]>)[RecordValue.earlier] = earlier;
}

function identify(value: RecordValue, kind: string, id: number): void {
  // A symbol: no loop over an object's fields meets it.
  (value as unknown as Record<symbol, string>)[RecordValue.key] = `${kind}:${id}`;
}

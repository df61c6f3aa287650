import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { catalogueFile, productFile } from '@/contract/catalogue-file';
import { differences } from '@/core/exchange';
import { StoredCatalogue } from './catalogue';
import { exportOthers, productRecords, type ProductRecord } from './export';
import { mediaFiles } from './media';
import { RevisionCache } from './revision-cache';
import type { Statements } from './statements';
import type { CatalogueWriter } from './writer';

/** Kinds of record of a catalogue file, in the order in which they are written: none names one of a later kind. */
export const fileKinds = [
  'shop',
  'field',
  'brand',
  'tag',
  'category',
  'product',
  'content',
  'article',
  'menu',
  'redirect',
] as const;
export type FileKind = (typeof fileKinds)[number];
/** All kinds whose changes are kept: a picture is a file beside them, named by its path. */
export const recordKinds = [...fileKinds, 'picture'] as const;
export type RecordKind = (typeof recordKinds)[number];

/** A record as a catalogue file has it. */
export type GoodsRecord = Readonly<Record<string, unknown>>;

/**
 * What happens to one record: it is added (`after` is all of it), removed (`before` is), or changed (both hold the fields that differ). Its
 * `slug` names it in its kind; a custom field is `product lead_time`, the shop `shop`.
 */
export interface RecordChange {
  kind: RecordKind;
  slug: string;
  what: 'added' | 'changed' | 'removed';
  before: GoodsRecord;
  after: GoodsRecord;
}

export interface GoodsChange {
  id: number;
  title: string;
  at: string;
  by: string;
  /** The change that this one undoes. */
  undoes: number | null;
  /** The change that undid this one. */
  undoneBy: number | null;
  added: number;
  changed: number;
  removed: number;
}

const { shape } = catalogueFile;
const schemas: Record<RecordKind, z.ZodObject> = {
  shop: shape.shop,
  field: shape.fields.def.innerType.element,
  brand: shape.brands.def.innerType.element,
  tag: shape.tags.def.innerType.element,
  category: shape.categories.def.innerType.element,
  product: productFile,
  content: shape.content.def.innerType.element,
  article: shape.articles.def.innerType.element,
  menu: shape.menus.def.innerType.element,
  redirect: shape.redirects.def.innerType.element,
  picture: z.strictObject({
    path: z.string(),
    hash: z.string(),
    type: z.string(),
    width: z.int().nullable(),
    height: z.int().nullable(),
    size: z.int(),
  }),
};

/** The schema of a kind of record. */
export const recordSchema = (kind: RecordKind): z.ZodObject => schemas[kind];

const parts = new LRUCache<string, z.ZodObject>({ max: 500 });

/** The schema of some fields of a kind of record: they do not hang together. Fields that it does not know are refused. */
export function partSchema(kind: RecordKind, fields: readonly string[]): z.ZodObject {
  const key = [kind, ...fields].join(' ');
  let part = parts.get(key);
  if (!part) {
    const { shape } = schemas[kind];
    part = z.strictObject(Object.fromEntries(Object.entries(shape).filter(([field]) => fields.includes(field))));
    parts.set(key, part);
  }
  return part;
}

/** What names a record in its kind. */
export function slugOfRecord(kind: RecordKind, record: GoodsRecord): string {
  if (kind === 'shop') return 'shop';
  if (kind === 'picture' || kind === 'redirect') return String(record.path);
  return kind === 'field' ? `${String(record.subject)} ${String(record.key)}` : String(record.slug);
}

/** A record with every field that it may have: what a file leaves out is as it would be taken. */
export const wholeRecord = (kind: RecordKind, record: unknown): GoodsRecord =>
  schemas[kind].parse(record) as GoodsRecord;

/** The same for a product as the catalogue gives it, which lacks nothing but texts that there are none of. */
function wholeProduct(product: ProductRecord): GoodsRecord {
  const texts = <T extends object>(one: T) => ('texts' in one ? one : { ...one, texts: {} });
  return {
    ...texts(product),
    live: product.live ?? true,
    fieldTexts: product.fieldTexts ?? {},
    attributes: product.attributes?.map(texts),
    options: product.options?.map((option) => ({ ...texts(option), values: option.values.map(texts) })),
    variants: product.variants?.map(texts),
    media: product.media?.map(texts),
  };
}

/** The catalogue's records as they are, by kind and slug; products are read when they are asked for. */
export class RecordReader {
  #others: ReadonlyMap<FileKind, ReadonlyMap<string, GoodsRecord>> | null = null;
  /** Products are read once each: what pages read often stays in the shop's cache. */
  readonly #products: StoredCatalogue;

  constructor(readonly source: StoredCatalogue) {
    this.#products = new StoredCatalogue(source.sql, null, new RevisionCache(false));
  }

  #readOthers(): ReadonlyMap<FileKind, ReadonlyMap<string, GoodsRecord>> {
    const { shop, fields, brands, tags, categories, content, articles, menus, redirects } = exportOthers(this.source);
    const bySlug = (kind: FileKind, records: readonly unknown[] | undefined) =>
      [
        kind,
        new Map((records ?? []).map((one) => wholeRecord(kind, one)).map((one) => [slugOfRecord(kind, one), one])),
      ] as const;
    return new Map([
      bySlug('shop', [shop]),
      bySlug('field', fields),
      bySlug('brand', brands),
      bySlug('tag', tags),
      bySlug('category', categories),
      bySlug('content', content),
      bySlug('article', articles),
      bySlug('menu', menus),
      bySlug('redirect', redirects),
    ]);
  }

  /** Every record of a kind that is not products, in its order. */
  all(kind: Exclude<FileKind, 'product'>): ReadonlyMap<string, GoodsRecord> {
    return (this.#others ??= this.#readOthers()).get(kind) ?? new Map();
  }

  /** Records of a kind by their slugs; those that there are. */
  read(kind: RecordKind, slugs: readonly string[]): Map<string, GoodsRecord> {
    if (kind === 'product')
      return new Map(productRecords(this.#products, slugs).map((one) => [one.slug, wholeProduct(one)]));
    if (kind === 'picture')
      return new Map([...mediaFiles(this.source.sql, slugs)].map(([path, file]) => [path, { ...file }]));
    const all = this.all(kind);
    return new Map(slugs.flatMap((slug) => (all.has(slug) ? [[slug, all.get(slug) as GoodsRecord] as const] : [])));
  }

  productSlugs(): string[] {
    return this.source.sql
      .all<{ slug: string }>('SELECT slug FROM product ORDER BY position, id')
      .map(({ slug }) => slug);
  }

  /** Which products have these article numbers. */
  productsOfSkus(skus: readonly string[]): Map<string, string> {
    const rows = this.source.sql.all<{ sku: string; slug: string }>(
      `SELECT v.sku, p.slug FROM variant v JOIN product p ON p.id = v.product_id WHERE v.sku IN (SELECT value FROM json_each(?))`,
      JSON.stringify(skus),
    );
    return new Map(rows.map(({ sku, slug }) => [sku, slug]));
  }
}

/** Kinds whose records may get another slug. */
type RenamedKind = Parameters<CatalogueWriter['rename']>[0];

/** Whether a change gives a record another slug. */
export const isRenamed = ({ kind, slug, what, after }: RecordChange): boolean =>
  what === 'changed' && kind !== 'redirect' && typeof after.slug === 'string' && after.slug !== slug;

/** Writes one change of a record; `whole` is the record as it is to be. */
export function writeRecord(writer: CatalogueWriter, change: RecordChange, whole: GoodsRecord): void {
  const { kind, slug, what } = change;
  if (what === 'removed') {
    // Its place goes with it into the history, so that it can go back there.
    const position = writer.placeOf(kind, slug);
    if (position !== null) change.before = { ...change.before, position };
    if (kind === 'product') writer.removeProduct(slug);
    else if (kind === 'field') writer.removeField(...(slug.split(' ') as [string, string]));
    else if (kind === 'picture') writer.removePicture(slug);
    else if (kind === 'redirect') writer.removeRedirect(slug);
    else if (kind !== 'shop') writer.remove(kind, slug);
    return;
  }
  const record = whole as never;
  if (what === 'changed' && isRenamed(change)) writer.rename(kind as RenamedKind, slug, String(change.after.slug));
  if (kind === 'product') {
    if (what === 'added') writer.addProduct(record);
    else writer.changeProduct(record, Object.keys({ ...change.before, ...change.after }), change.before);
  } else if (kind === 'content' || kind === 'article') writer.page(kind, record);
  else if (kind === 'field') writer.field(record, (whole.position as number | undefined) ?? null);
  else writer[kind](record);
}

/** A record after a change: what the change does not name is as before. */
export function afterChange(before: GoodsRecord | undefined, { kind, what, after }: RecordChange): GoodsRecord {
  if (what !== 'added') return wholeRecord(kind, { ...before, ...after });
  const { position, ...record } = after;
  // A place of its own belongs to a category alone; of others it comes from the history.
  if (kind === 'category' || position === undefined) return wholeRecord(kind, after);
  return { ...wholeRecord(kind, record), position };
}

/** What makes `after` of a record that is there (or not); null where nothing differs. */
export function changeOfRecord(
  kind: RecordKind,
  slug: string,
  before: GoodsRecord | undefined,
  after: GoodsRecord,
): RecordChange | null {
  if (!before) return { kind, slug, what: 'added', before: {}, after };
  const changed = differences(before, after);
  if (!changed.length) return null;
  return {
    kind,
    slug,
    what: 'changed',
    before: Object.fromEntries(changed.map(({ field, before: was }) => [field, was])),
    after: Object.fromEntries(changed.map(({ field, after: is }) => [field, is])),
  };
}

const uses: Partial<Record<RecordKind, string>> = {
  brand: 'SELECT 1 FROM product p JOIN brand b ON b.id = p.brand_id WHERE b.slug = ? LIMIT 1',
  tag: 'SELECT 1 FROM product_tag pt JOIN tag t ON t.id = pt.tag_id WHERE t.slug = ? LIMIT 1',
  category: `SELECT 1 FROM category c WHERE c.slug = ? AND (EXISTS (SELECT 1 FROM product_category WHERE category_id = c.id)
    OR EXISTS (SELECT 1 FROM category WHERE parent_id = c.id))`,
  field: `SELECT 1 FROM field_value v JOIN field_definition d ON d.id = v.definition_id WHERE d.subject || ' ' || d.key = ? LIMIT 1`,
};

/** Whether products, or categories below it, have a brand, tag, category or custom field. */
export const isUsed = (sql: Statements, kind: RecordKind, slug: string): boolean =>
  uses[kind] !== undefined && sql.get(uses[kind], slug) !== undefined;

const counted = (what: string): string =>
  `(SELECT count(*) FROM goods_record r WHERE r.change_id = c.id AND r.what = '${what}') AS ${what}`;
const listed = `
  SELECT c.id, c.title, c.at, c.by, c.undoes, (SELECT max(id) FROM goods_change u WHERE u.undoes = c.id) AS undoneBy,
    ${counted('added')}, ${counted('changed')}, ${counted('removed')}
  FROM goods_change c`;

/** Records of a change that are read at once. */
const recordsAtOnce = 500;

/** Changes of goods as they are kept: who made them and when, and what they did to each record. */
export class GoodsHistory {
  constructor(readonly sql: Statements) {}

  /** Notes a change; what it does to records is put to it one by one. */
  begin(title: string, at: string, by: string, undoes: number | null = null): number {
    return this.sql.run('INSERT INTO goods_change (title, at, by, undoes) VALUES (?, ?, ?, ?)', title, at, by, undoes)
      .id;
  }

  rename(id: number, title: string): void {
    this.sql.run('UPDATE goods_change SET title = ? WHERE id = ?', title, id);
  }

  put(changeId: number, { kind, slug, what, before, after }: RecordChange): void {
    this.sql.run(
      'INSERT INTO goods_record (change_id, kind, slug, what, before, after) VALUES (?, ?, ?, ?, ?, ?)',
      changeId,
      kind,
      slug,
      what,
      JSON.stringify(before),
      JSON.stringify(after),
    );
  }

  /** Says that a record has another slug, in all that was noted of it: so it is found there by what it is called now. */
  follow(kind: RecordKind, from: string, to: string): void {
    this.sql.run('UPDATE goods_record SET slug = ? WHERE kind = ? AND slug = ?', to, kind, from);
  }

  /** Changes, the latest first. */
  list(most = 200): GoodsChange[] {
    return this.sql.all(`${listed} ORDER BY c.id DESC LIMIT ?`, most);
  }

  get(id: number): GoodsChange | null {
    return this.sql.get<GoodsChange>(`${listed} WHERE c.id = ?`, id) ?? null;
  }

  /** Some of what a change did to records, in the order in which it was done. */
  records(changeId: number, from: number, most: number): RecordChange[] {
    return this.sql
      .all<Parameters<typeof readChange>[0]>(
        'SELECT kind, slug, what, before, after FROM goods_record WHERE change_id = ? ORDER BY id LIMIT ? OFFSET ?',
        ...[changeId, most, from],
      )
      .map(readChange);
  }

  /** Slugs of the products that a change removed. */
  removedProducts(changeId: number): ReadonlySet<string> {
    return new Set(
      this.sql
        .all<{ slug: string }>(
          "SELECT slug FROM goods_record WHERE change_id = ? AND kind = 'product' AND what = 'removed'",
          changeId,
        )
        .map(({ slug }) => slug),
    );
  }

  /** What a change did to records, the last first: those that it removed, or all others. */
  *backwards(changeId: number, removed: boolean): Generator<RecordChange> {
    for (let before = Number.MAX_SAFE_INTEGER; ;) {
      const rows = this.sql.all<{ id: number } & Parameters<typeof readChange>[0]>(
        `SELECT id, kind, slug, what, before, after FROM goods_record
         WHERE change_id = ? AND (what = 'removed') = ? AND id < ? ORDER BY id DESC LIMIT ?`,
        ...[changeId, removed ? 1 : 0, before, recordsAtOnce],
      );
      yield* rows.map(readChange);
      const last = rows.at(-1);
      if (!last) return;
      before = last.id;
    }
  }
}

/** A change of a record as it is kept. */
export const readChange = ({
  kind,
  slug,
  what,
  before,
  after,
}: Omit<RecordChange, 'before' | 'after'> & { before: string; after: string }): RecordChange => ({
  ...{ kind, slug, what },
  before: JSON.parse(before) as GoodsRecord,
  after: JSON.parse(after) as GoodsRecord,
});

/** What columns of files with the same headings were taken for, as it was last corrected; null: none was imported yet. */
export function mappingOf(sql: Statements, headings: string): Record<string, string | null> | null {
  const row = sql.get<{ columns: string }>('SELECT columns FROM column_mapping WHERE headings = ?', headings);
  return row ? (JSON.parse(row.columns) as Record<string, string | null>) : null;
}

export function keepMapping(
  sql: Statements,
  headings: string,
  columns: Record<string, string | null>,
  at: string,
): void {
  sql.run(
    `INSERT INTO column_mapping (headings, columns, at) VALUES (?, ?, ?)
     ON CONFLICT (headings) DO UPDATE SET columns = excluded.columns, at = excluded.at`,
    headings,
    JSON.stringify(columns),
    at,
  );
}

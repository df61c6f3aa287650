import { etagOf } from '@/server/http';
import { OrderHolds, RecordReader, type FileKind, type GoodsRecord } from '@/store';
import type { Shop } from '@/server/shop';

/** Variants that a record has. */
const variantsOf = ({ variants }: Readonly<Record<string, unknown>>): { sku?: unknown; stock?: unknown }[] =>
  Array.isArray(variants) ? (variants as { sku?: unknown; stock?: unknown }[]) : [];

/** Article numbers that fields of a record name. */
export const skusIn = (fields: Readonly<Record<string, unknown>>): string[] =>
  variantsOf(fields).flatMap((one) => (typeof one?.sku === 'string' ? [one.sku] : []));

/** A variant, or figures of one, with so much more stock as orders hold (1), or less (-1). */
export const withHeld = <T extends { sku?: unknown; stock?: unknown }>(
  one: T,
  held: ReadonlyMap<string, number>,
  sign: 1 | -1,
): T =>
  typeof one?.stock === 'number' && held.has(String(one.sku))
    ? { ...one, stock: one.stock + sign * (held.get(String(one.sku)) ?? 0) }
    : one;

/** The same for the variants of a record. Another system does not know what orders hold: what it sends is without that here, and what it reads is with it. */
export const recordWithHeld = <T extends Readonly<Record<string, unknown>>>(
  fields: T,
  held: ReadonlyMap<string, number>,
  sign: 1 | -1,
): T =>
  held.size && variantsOf(fields).length
    ? { ...fields, variants: variantsOf(fields).map((one) => withHeld(one, held, sign)) }
    : fields;

/** The entity tag of a record as another system knows it. */
export const etagOfRecord = (record: GoodsRecord, held: ReadonlyMap<string, number>): string =>
  etagOf(JSON.stringify(recordWithHeld(record, held, 1)));

/** A record as another system knows it, with its entity tag; null: there is none. */
export function readKnown(shop: Shop, kind: FileKind, slug: string): { record: GoodsRecord; etag: string } | null {
  const record = new RecordReader(shop.catalogue()).read(kind, [slug]).get(slug);
  if (!record) return null;
  const held = new OrderHolds(shop.sql).of(skusIn(record));
  return { record: recordWithHeld(record, held, 1), etag: etagOfRecord(record, held) };
}

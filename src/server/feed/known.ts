import { createHash } from 'node:crypto';
import { OrderHolds, RecordReader, type FileKind, type GoodsRecord } from '@/store';
import type { Shop } from '@/server/shop';

/** Variants that a record has. */
const variantsOf = ({ variants }: Readonly<Record<string, unknown>>): { sku?: unknown; stock?: unknown }[] =>
  Array.isArray(variants) ? (variants as { sku?: unknown; stock?: unknown }[]) : [];

/** Article numbers that fields of a record name. */
export const skusIn = (fields: Readonly<Record<string, unknown>>): string[] =>
  variantsOf(fields).flatMap((one) => (typeof one?.sku === 'string' ? [one.sku] : []));

/** A variant, or figures of one, with so much more stock. */
const moved = <T extends { sku?: unknown; stock?: unknown }>(
  one: T,
  by: ReadonlyMap<string, number>,
  sign: 1 | -1,
): T =>
  typeof one?.stock === 'number' && by.has(String(one.sku))
    ? { ...one, stock: one.stock + sign * (by.get(String(one.sku)) ?? 0) }
    : one;

/** What another system sends, without the stock that orders hold: it does not know of them yet. */
export const withoutHeld = <T extends { sku?: unknown; stock?: unknown }>(
  one: T,
  held: ReadonlyMap<string, number>,
): T => moved(one, held, -1);

/** Fields of a record as another system sends them, in the same way. */
export const fieldsWithoutHeld = <T extends Readonly<Record<string, unknown>>>(
  fields: T,
  held: ReadonlyMap<string, number>,
): T =>
  held.size && variantsOf(fields).length
    ? { ...fields, variants: variantsOf(fields).map((one) => withoutHeld(one, held)) }
    : fields;

/** A record as another system knows it: with the stock that orders hold. */
export const knownOf = (record: GoodsRecord, held: ReadonlyMap<string, number>): GoodsRecord =>
  held.size && variantsOf(record).length
    ? { ...record, variants: variantsOf(record).map((one) => moved(one, held, 1)) }
    : record;

/** The entity tag (RFC 9110, 8.8.3) of a record as another system knows it. */
export const etagOf = (known: GoodsRecord): string =>
  `"${createHash('sha256').update(JSON.stringify(known)).digest('base64url').slice(0, 27)}"`;

/** A record as another system knows it, with its entity tag; null: there is none. */
export function readKnown(shop: Shop, kind: FileKind, slug: string): { record: GoodsRecord; etag: string } | null {
  const record = new RecordReader(shop.catalogue()).read(kind, [slug]).get(slug);
  if (!record) return null;
  const known = knownOf(record, new OrderHolds(shop.sql).of(skusIn(record)));
  return { record: known, etag: etagOf(known) };
}

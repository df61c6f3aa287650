import { pathInWords } from '@/core/exchange';
import { cleanRichText } from '@/server/catalogue';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import {
  CatalogueFileError,
  CatalogueWriter,
  GoodsHistory,
  isRenamed,
  partSchema,
  recordSchema,
  writeRecord,
  type GoodsRecord,
  type RecordChange,
} from '@/store';

/** Who makes a change, when, and what it is called. */
export interface Saving {
  title: string;
  at: string;
  by: string;
}

/** A change with the record as it is now (undefined: there is none). */
export type ChangeOf = readonly [change: RecordChange, now: GoodsRecord | undefined];

/**
 * Writes changes of records as one change that can be undone; gives its number, null where there is nothing to change. Run it in a transaction. Refused, and nothing is written, where a record may
 * not hold what it is to hold, or names what there is not.
 */
export function writeChanges(
  shop: Shop,
  changes: Iterable<ChangeOf>,
  { title, at, by }: Saving,
  heard: (done: number) => void = () => {},
): number | null {
  const history = new GoodsHistory(shop.sql);
  let id: number | null = null;
  const writer = new CatalogueWriter(shop.sql, cleanRichText);
  let done = 0;
  try {
    for (const [change, now] of changes) {
      id ??= history.begin(title, at, by);
      writeRecord(writer, change, change.what === 'removed' ? {} : checked(change, now));
      history.put(id, change);
      if (isRenamed(change)) history.follow(change.kind, change.slug, String(change.after.slug));
      heard(++done);
    }
    if (id !== null) writer.finish(shop.catalogue().shop().locale);
  } catch (error) {
    if (!(error instanceof CatalogueFileError)) throw error;
    const said = error.message.replace(' is used, but the file has none of that name', '');
    return refuse(422, 'names', `${said} is named, but there is none. Nothing was saved.`);
  }
  return id;
}

/** The record as it is to be; refused where it may not hold that. Of one that is there only what differs is looked at. */
function checked(change: RecordChange, now: GoodsRecord | undefined): GoodsRecord {
  const { kind, slug, what, after } = change;
  const partly = what === 'changed' && now !== undefined;
  const read = (partly ? partSchema(kind, Object.keys(after)) : recordSchema(kind)).safeParse(after);
  if (read.success) return partly ? { ...now, ...read.data } : read.data;
  const { path, message } = read.error.issues[0] ?? { path: [], message: '' };
  const [field = '', entry, ...inside] = path.map(String);
  // Entries of lists are called by their names.
  const list = after[field];
  const one = Array.isArray(list) ? (list[Number(entry)] as GoodsRecord | string | undefined) : undefined;
  const called = typeof one === 'object' ? (one.sku ?? one.slug ?? one.name ?? one.path) : one;
  const named = [field, ...(entry === undefined ? [] : [String(called ?? entry)]), ...inside];
  return refuse(422, 'value', `${pathInWords({ path: named }) || kind} of “${slug}”: ${message}. Nothing was saved.`);
}

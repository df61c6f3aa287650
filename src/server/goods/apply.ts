import { refuse } from '@/server/http';
import { cleanRichText } from '@/server/catalogue';
import type { Shop } from '@/server/shop';
import { sameValue } from '@/core/exchange';
import {
  afterChange,
  CatalogueWriter,
  GoodsHistory,
  keepMapping,
  recordKinds,
  RecordReader,
  writeRecord,
  type GoodsRecord,
  type RecordChange,
  type Staging,
} from '@/store';
import { sameHeadings } from '@/core/exchange';
import { inBatches, recordsOf } from './records';

/** Who makes a change, when, and what it is called. */
export interface Making {
  title: string;
  at: string;
  by: string;
  /** A change that was begun, and that this is part of: with its pictures. */
  into?: number | null;
}

/** What became of a change: its number, and what it could not do, in words. */
export interface Made {
  id: number;
  records: number;
  left: string[];
}

/** Whether a record still is as a change found it. */
function stands(change: RecordChange, now: GoodsRecord | undefined): boolean {
  if (change.what === 'added') return now === undefined;
  return now !== undefined && Object.entries(change.before).every(([field, was]) => sameValue(now[field], was));
}

/**
 * Does what was planned, all of it or nothing, as one change that can be undone. Refused where a record is no longer as the plan found it.
 * Tells how many records it has written.
 */
export function applyImport(
  shop: Shop,
  staging: Staging,
  making: Making,
  heard: (done: number) => void = () => {},
): Made {
  return shop.themes.transaction(() => {
    const source = shop.catalogue();
    const reader = new RecordReader(source);
    const history = new GoodsHistory(shop.sql);
    const id = making.into ?? history.begin(making.title, making.at, making.by);
    if (making.into) history.rename(id, making.title);
    const writer = new CatalogueWriter(shop.sql, cleanRichText);
    let records = 0;
    for (const changes of inBatches(staging.changes(recordKinds))) {
      for (const [change, now] of recordsOf(reader, changes)) {
        if (!stands(change, now))
          refuse(
            409,
            'changed',
            `“${change.slug}” was changed since this was looked at: nothing was imported. Look at it again.`,
          );
        writeRecord(writer, change, afterChange(now, change));
        history.put(id, change);
        records++;
      }
      heard(records);
    }
    writer.finish(shop.catalogue().shop().locale);
    const [headings, columns] = [
      staging.noted<string[]>('headings'),
      staging.noted<Record<string, string | null>>('columns'),
    ];
    if (headings && columns) keepMapping(shop.sql, sameHeadings(headings), columns, making.at);
    return { id, records, left: [] };
  });
}

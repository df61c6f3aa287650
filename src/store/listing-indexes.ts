import { Columns, ListingIndex, type Split } from '@/core/catalogue';
import { changedSince } from './facts';
import { indexRows } from './index-rows';
import type { RevisionCache } from './revision-cache';
import type { Statements } from './statements';

/**
 * The index of all listings of a catalogue. While only prices and stock change, it is brought up to date product by product: making it for a large
 * catalogue takes seconds. `live`: without products that are kept out of live.
 */
export function listingIndex(
  sql: Statements,
  cache: RevisionCache,
  split: Split | null,
  live: boolean,
  idOf: (slug: string) => number | undefined,
): ListingIndex {
  const name = live ? 'live ' : '';
  const columns = () =>
    cache.patched<Columns>(
      `${name}columns`,
      () => new Columns(indexRows(sql, live)),
      (before, since) => {
        const ids = changedSince(sql, since);
        if (!ids?.length) return ids && before;
        return before.withFigures(ids, new Columns(indexRows(sql, live, ids)));
      },
    );
  return cache.patched<ListingIndex>(
    `${name}index ${JSON.stringify(split)}`,
    () => new ListingIndex(columns(), split, idOf),
    (before, since) => {
      const now = columns();
      if (now === before.columns) return before;
      const ids = now.shape === before.columns.shape ? changedSince(sql, since) : null;
      return ids && before.withFigures(now, ids);
    },
  );
}

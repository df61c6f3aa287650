import { isAddressed } from '@/core/catalogue';
import { mergeFields, pathInWords, sameValue } from '@/core/exchange';
import { cleanRichText } from '@/server/catalogue';
import { refuse } from '@/server/http';
import { lettingGo, namesNow, redirectChanges, type Renamed } from '@/server/records';
import type { Shop } from '@/server/shop';
import {
  afterChange,
  CatalogueWriter,
  changeOfRecord,
  GoodsHistory,
  isRenamed,
  isUsed,
  RecordReader,
  wholeRecord,
  writeRecord,
  type GoodsRecord,
  type RecordChange,
} from '@/store';
import type { Made, Making } from './apply';
import { withoutMissing } from './missing';
import { inBatches, recordsOf } from './records';

/** What becomes of values that others changed since: nothing is undone and it is asked, they stay, or they are put back too. */
export type Overlapping = 'ask' | 'leave' | 'replace';

/** A record but for its place among others, which theirs may change. */
const unplaced = ({ position: _, ...record }: GoodsRecord): GoodsRecord => record;

/** What puts one record's change back, value by value (null: there is nothing to do), and what others changed since, in words. */
function backOf(
  change: RecordChange,
  now: GoodsRecord | undefined,
  force: boolean,
): { back: RecordChange | null; others: string[] } {
  const { kind, slug } = change;
  const called = `${kind} “${slug.replace(/^\w+ /, '')}”`;
  if (change.what === 'added') {
    if (!now) return { back: null, others: [] };
    const same = sameValue(unplaced(now), unplaced(wholeRecord(kind, unplaced(change.after))));
    return {
      back: same || force ? { kind, slug, what: 'removed', before: now, after: {} } : null,
      others: same ? [] : [`The ${called} was changed after it was added`],
    };
  }
  if (change.what === 'removed')
    return now
      ? { back: null, others: [`There is another ${called} now`] }
      : { back: { kind, slug, what: 'added', before: {}, after: change.before }, others: [] };
  if (!now) return { back: null, others: [`The ${called} is gone`] };
  const { fields, overlaps } = mergeFields(change.after, change.before, now, force);
  return {
    back: changeOfRecord(kind, slug, now, fields),
    others: overlaps.map((one) => `${pathInWords(one)} of the ${called} was changed since`),
  };
}

/**
 * Undoes a change of goods, value by value, as a change of its own. What others changed since is told; by `overlapping` it stays, is put back too, or
 * nothing is done: then it is refused with what they changed. Refused too where it was undone already.
 */
export function undoChange(
  shop: Shop,
  changeId: number,
  making: Omit<Making, 'title'>,
  heard: (done: number) => void = () => {},
  overlapping: Overlapping = 'leave',
): Made {
  return shop.themes.transaction(() => {
    const history = new GoodsHistory(shop.sql);
    const change = history.get(changeId) ?? refuse(404, 'change', `There is no change ${changeId} of goods.`);
    if (change.undoneBy !== null) refuse(409, 'undone', `“${change.title}” was undone already.`);
    const source = shop.catalogue();
    const reader = new RecordReader(source);
    const id = history.begin(`Undo: ${change.title}`, making.at, making.by, changeId);
    const writer = new CatalogueWriter(shop.sql, cleanRichText);
    const left: string[] = [];
    let records = 0;
    const redirects = source.redirects();
    const renamed: Renamed[] = [];
    const coming = history.removedProducts(changeId);
    // What was written last goes first: nothing is removed that another record still names, nor added before what it names.
    for (const removed of [true, false])
      for (const changes of inBatches(history.backwards(changeId, removed))) {
        for (const [change, now] of recordsOf(reader, changes)) {
          const one = {
            ...change,
            before: namesNow(change.before, redirects),
            after: namesNow(change.after, redirects),
          };
          const undone = backOf(one, now, overlapping === 'replace');
          left.push(...undone.others);
          if (!undone.back) continue;
          const { change: back, missing } = withoutMissing(writer, undone.back, coming);
          left.push(...missing);
          if (back.what === 'removed' && isUsed(shop.sql, back.kind, back.slug)) {
            left.push(`The ${back.kind} “${back.slug}” is in use by now`);
            continue;
          }
          const to = String(back.after.slug);
          if (isRenamed(back) && reader.read(back.kind, [to]).size) {
            left.push(`There is another ${back.kind} “${to}” now`);
            continue;
          }
          if (back.what === 'removed' && back.kind === 'product')
            for (const [change, holder] of lettingGo(shop, back.slug)) {
              writeRecord(writer, change, afterChange(holder, change));
              history.put(id, change);
            }
          writeRecord(writer, back, afterChange(now, back));
          history.put(id, back);
          records++;
          if (!isRenamed(back)) continue;
          history.follow(back.kind, back.slug, to);
          if (isAddressed(back.kind)) renamed.push({ kind: back.kind, from: back.slug, to });
        }
        heard(records);
      }
    // What was called otherwise meanwhile may be linked by that.
    if (renamed.length)
      for (const { slug, before, after } of redirectChanges(new RecordReader(source), renamed)) {
        const what = before === null ? 'added' : after === null ? 'removed' : 'changed';
        const back: RecordChange = { kind: 'redirect', slug, what, before: before ?? {}, after: after ?? {} };
        writeRecord(writer, back, afterChange(before ?? undefined, back));
        history.put(id, back);
      }
    if (left.length && overlapping === 'ask')
      refuse(409, 'overlap', `Others changed since what “${change.title}” changed: nothing was undone.`, { left });
    writer.finish(shop.catalogue().shop().locale);
    return { id, records, left };
  });
}

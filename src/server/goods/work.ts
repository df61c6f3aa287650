import type { Shop } from '@/server/shop';
import { bulkEdit, GoodsTable, saveCells } from '@/server/records';
import { Staging } from '@/store';
import { applyImport } from './apply';
import { undoChange } from './undo';
import { planImport } from './plan';
import { rehearseImport } from './rehearse';
import type { GoodsWork, MadeOf, WorkMade } from './task';
import { inThread } from './thread';

/** Cells and products that are written where the server answers: a thread would take longer to start. */
const maxShort = 60;

const isShort = (work: GoodsWork): boolean =>
  work.kind === 'cells'
    ? work.cells.length <= maxShort
    : work.kind === 'bulk' && 'length' in work.of && work.of.length <= maxShort;

/** How often it is said how far work is, in milliseconds. */
const intervalMs = 200;

/** Does the work in this process; gives what was made, null for a dry run. */
export async function doGoodsWork(
  shop: Shop,
  work: GoodsWork,
  heard: (done: number) => void,
): Promise<WorkMade | null> {
  let last = 0;
  const now = (done: number) => {
    if (performance.now() - last < intervalMs) return;
    last = performance.now();
    heard(done);
  };
  if (work.kind === 'undo') return undoChange(shop, work.change, work.making, now, work.overlapping);
  if (work.kind === 'cells') return saveCells(shop, work.cells, work.saving, { partly: work.partly, heard: now });
  if (work.kind === 'bulk') {
    const slugs = 'search' in work.of ? new GoodsTable(shop).slugs(work.of) : work.of;
    return bulkEdit(shop, slugs, work.edit, work.saving, now);
  }
  const staging = new Staging(work.staging);
  try {
    if (work.kind === 'apply') return applyImport(shop, staging, work.making, now);
    if (work.kind === 'rehearse') {
      staging.note('effects', rehearseImport(shop, staging));
      return null;
    }
    await planImport(shop, staging, work.ask, now);
    return null;
  } finally {
    staging.close();
  }
}

/**
 * Does long work on goods in a thread of its own, so that pages are served meanwhile; what else writes waits while it does. In the process
 * itself where the shop has no threads. `signal` stops it: nothing of it is left then.
 */
export async function goodsWork<Work extends GoodsWork>(
  shop: Shop,
  work: Work,
  heard: (done: number) => void = () => {},
  signal?: AbortSignal,
): Promise<MadeOf<Work> | null> {
  if (!shop.jobs || isShort(work)) return doGoodsWork(shop, work, heard) as Promise<MadeOf<Work> | null>;
  const run = () => inThread(work, heard, signal) as Promise<MadeOf<Work> | null>;
  return work.kind === 'plan' ? run() : shop.whileWriting(run);
}

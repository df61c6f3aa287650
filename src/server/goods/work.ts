import { Worker } from 'node:worker_threads';
import { threadFile } from '@/server/jobs';
import { Refused } from '@/server/http';
import { dataFolder, type Shop } from '@/server/shop';
import {
  bulkEdit,
  type BulkEdit,
  GoodsTable,
  saveCells,
  type Saving,
  type Written,
  type WrittenCell,
} from '@/server/records';
import type { Condition } from '@/core/alternates';
import { Staging } from '@/store';
import { applyImport, type Made, type Making } from './apply';
import { undoChange, type Overlapping } from './undo';
import { planImport, type ImportAsk } from './plan';
import { rehearseImport } from './rehearse';

/**
 * Work on goods that can be long: a dry run, its rehearsal, an import, an undo; cells that are written, and a column of many products. `staging`: the
 * file in which an import is planned.
 */
export type GoodsWork =
  | { kind: 'plan'; staging: string; ask: ImportAsk }
  | { kind: 'rehearse'; staging: string }
  | { kind: 'apply'; staging: string; making: Making }
  | { kind: 'undo'; change: number; making: Omit<Making, 'title'>; overlapping?: Overlapping }
  | { kind: 'cells'; cells: readonly WrittenCell[]; partly: boolean; saving: Saving }
  | {
      kind: 'bulk';
      edit: BulkEdit;
      of: readonly string[] | { search: string; where: Condition | null };
      saving: Saving;
    };

/** What comes of work: a change (null: nothing was changed), how many records, and what was left. */
export type WorkMade = Made | Written;

/** What a thread says of its work: how far it is, what came of it, or why nothing did. */
export type GoodsSaid =
  | { done: number }
  | { made: WorkMade | null }
  | { refused: { status: number; body: Refused['body'] } }
  | { failed: string };

export type MadeOf<Work extends GoodsWork> = Work extends { kind: 'cells' | 'bulk' } ? Written : Made;

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

function inThread(work: GoodsWork, heard: (done: number) => void, signal?: AbortSignal): Promise<WorkMade | null> {
  const { filename, execArgv } = threadFile('goods-thread', 'src/server/threads/goods-thread.ts');
  const worker = new Worker(filename, { execArgv, workerData: { folder: dataFolder(), work } });
  return new Promise((resolve, reject) => {
    const stop = () => void worker.terminate();
    signal?.addEventListener('abort', stop, { once: true });
    worker.on('message', (said: GoodsSaid) => {
      if ('done' in said) heard(said.done);
      else if ('made' in said) resolve(said.made);
      else if ('refused' in said) reject(new Refused(said.refused.status, said.refused.body));
      else reject(new Error(said.failed));
    });
    worker.once('error', reject);
    worker.once('exit', () => {
      signal?.removeEventListener('abort', stop);
      reject(new Refused(409, { code: 'stopped', message: 'It was stopped: nothing was changed.' }));
    });
  });
}

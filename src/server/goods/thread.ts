import type { Worker } from 'node:worker_threads';
import { beginThread } from '@/server/jobs';
import { Refused } from '@/server/http';
import { dataFolder, type Shop } from '@/server/shop';
import type { GoodsSaid, GoodsTask, GoodsWork, WorkMade } from './task';

/** A thread whose code is loaded is kept so long for the next work. */
const keptMs = 10 * 60_000;

/** It is begun so long after goods were looked at: what was asked for comes first. */
const laterMs = 2000;

const threads = globalThis as { lastGoods?: { worker: Worker; timer: NodeJS.Timeout }; lastGoodsSoon?: true };

const begin = (): Worker => beginThread('goods-thread');

/** Makes a thread ready where goods are looked at: loading its code takes longer than writing what is pasted there. */
export function prepareGoodsThread({ jobs }: Shop): void {
  if (!jobs || threads.lastGoods || threads.lastGoodsSoon) return;
  threads.lastGoodsSoon = true;
  setTimeout(() => {
    delete threads.lastGoodsSoon;
    keepThread();
  }, laterMs).unref();
}

function keepThread(): void {
  const worker = begin();
  worker.unref();
  const timer = setTimeout(() => void worker.terminate(), keptMs);
  timer.unref();
  const spare = { worker, timer };
  threads.lastGoods = spare;
  worker.once('error', () => {});
  worker.once('exit', () => {
    if (threads.lastGoods === spare) delete threads.lastGoods;
  });
}

/** The thread that is ready, or a new one. */
function takeThread(): Worker {
  const spare = threads.lastGoods;
  if (!spare) return begin();
  delete threads.lastGoods;
  clearTimeout(spare.timer);
  spare.worker.ref();
  return spare.worker;
}

/** Does one work in a thread of its own; `signal` ends it. */
export function inThread(
  work: GoodsWork,
  heard: (done: number) => void,
  signal?: AbortSignal,
): Promise<WorkMade | null> {
  const worker = takeThread();
  worker.postMessage({ folder: dataFolder(), work } satisfies GoodsTask);
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

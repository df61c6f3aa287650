import { Worker } from 'node:worker_threads';
import { threadFile } from './thread-file';

/** Of the whole process: Next's bundle has a copy of this file of its own. */
const global = globalThis as { lastThreads?: Set<Worker> };
const threads = (): Set<Worker> => (global.lastThreads ??= new Set());

/** Begins a thread of its own for work on a data folder. */
export function beginThread(name: string, workerData: unknown = undefined): Worker {
  const { filename, execArgv } = threadFile(name, `src/server/threads/${name}.ts`);
  const worker = new Worker(filename, { execArgv, workerData });
  threads().add(worker);
  worker.once('exit', () => threads().delete(worker));
  return worker;
}

/** Ends them all: what they know of the folder does not hold any more. Who waits for one hears that it ended. */
export async function endThreads(): Promise<void> {
  await Promise.all([...threads()].map((worker) => worker.terminate()));
}

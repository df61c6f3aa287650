import { Worker } from 'node:worker_threads';
import { dataFolder } from '@/store/database';
import { threadFile } from './jobs/thread-file';
import { workKey, type FromThread, type LongWork, type ToThread, type WorkStep } from './long-work-thread';

let last = 0;
const latest = new Map<string, number>();
const threads = globalThis as { lastSurveys?: Worker };

/** The thread that does long work; begun with the first, and again when it ended. */
function thread(): Worker {
  if (threads.lastSurveys) return threads.lastSurveys;
  const { filename, execArgv } = threadFile('long-work-thread', 'src/server/long-work-thread.ts');
  const made = new Worker(filename, {
    execArgv,
    workerData: { folder: dataFolder() },
  });
  made.setMaxListeners(50);
  made.unref();
  made.once('exit', () => delete threads.lastSurveys);
  return (threads.lastSurveys = made);
}

/** Work with one answer. */
export function workOnce<T extends WorkStep>(work: LongWork): Promise<T> {
  const id = ++last;
  const worker = thread();
  return new Promise((resolve, reject) => {
    const end = () => {
      worker.off('message', heard);
      worker.off('error', failed);
    };
    const failed = (error: Error) => {
      end();
      reject(error);
    };
    const heard = (said: FromThread) => {
      if (said.id !== id) return;
      end();
      if ('failed' in said) reject(new Error(said.failed));
      else resolve(said.step as T);
    };
    worker.on('message', heard);
    worker.once('error', failed);
    worker.postMessage({ id, work } satisfies ToThread);
  });
}

/** Long work as lines of JSON: what was found so far, now and then, and at the end. Whoever stops listening stops it. */
export function streamWork(work: LongWork): ReadableStream<Uint8Array> {
  const id = ++last;
  const key = workKey(work.kind, id);
  const worker = thread();
  const tell = (message: ToThread) => worker.postMessage(message);
  const write = new TextEncoder();
  let end = () => {};
  return new ReadableStream({
    start(controller) {
      const line = (value: unknown) => controller.enqueue(write.encode(`${JSON.stringify(value)}\n`));
      const heard = (said: FromThread) => {
        // A newer one of its kind takes the place of this one.
        if (said.id > id && workKey(said.kind, said.id) === key) return close();
        if (said.id !== id) return;
        if ('failed' in said) line({ failed: said.failed });
        else line(said.step);
        if ('failed' in said || said.step.done) close();
      };
      const failed = (error: Error) => {
        line({ failed: error.message });
        close();
      };
      const close = () => {
        end();
        controller.close();
      };
      end = () => {
        worker.off('message', heard);
        worker.off('error', failed);
        if (key !== work.kind) latest.delete(key);
      };
      worker.on('message', heard);
      worker.once('error', failed);
      tell({ id, work });
      latest.set(key, id);
    },
    cancel() {
      if (latest.get(key) === id) tell({ id: ++last, stop: key });
      end();
    },
  });
}

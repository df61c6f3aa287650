import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { dataFolder } from '@/store/database';
import type { FromThread, LongWork, ToThread } from './long-work-thread';

let last = 0;
const latest: Partial<Record<LongWork['kind'], number>> = {};
const threads = globalThis as { lastSurveys?: Worker };

/** The thread that does long work; begun with the first, and again when it ended. */
function thread(): Worker {
  if (threads.lastSurveys) return threads.lastSurveys;
  const made = new Worker(join(process.cwd(), 'src/server/long-work-thread.ts'), {
    execArgv: ['--import', 'tsx'],
    workerData: { folder: dataFolder() },
  });
  made.setMaxListeners(50);
  made.unref();
  made.once('exit', () => delete threads.lastSurveys);
  return (threads.lastSurveys = made);
}

/** Long work as lines of JSON: what was found so far, now and then, and at the end. Whoever stops listening stops it. */
export function streamWork(work: LongWork): ReadableStream<Uint8Array> {
  const id = ++last;
  const worker = thread();
  const tell = (message: ToThread) => worker.postMessage(message);
  const write = new TextEncoder();
  let end = () => {};
  return new ReadableStream({
    start(controller) {
      const line = (value: unknown) => controller.enqueue(write.encode(`${JSON.stringify(value)}\n`));
      const heard = (said: FromThread) => {
        // A newer one of its kind takes the place of this one.
        if (said.kind === work.kind && said.id > id) return close();
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
      };
      worker.on('message', heard);
      worker.once('error', failed);
      tell({ id, work });
      latest[work.kind] = id;
    },
    cancel() {
      end();
      if (latest[work.kind] === id) tell({ id: ++last, stop: work.kind });
    },
  });
}

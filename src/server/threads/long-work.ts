import type { Worker } from 'node:worker_threads';
import { dataFolder } from '@/store';
import { beginThread } from '@/server/jobs';
import type { FromThread, LongWork, ToThread, WorkAnswers } from './long-work-thread';

let last = 0;
const threads = globalThis as { lastSurveys?: Worker };

/** The thread that does long work; begun with the first, and again when it ended. */
function thread(): Worker {
  if (threads.lastSurveys) return threads.lastSurveys;
  const worker = beginThread('long-work-thread', { folder: dataFolder() });
  worker.setMaxListeners(50);
  worker.unref();
  worker.once('exit', () => delete threads.lastSurveys);
  return (threads.lastSurveys = worker);
}

/** A thread that says nothing for so long does not answer any more: it is ended, and the next work gets another. */
const silenceMs = 60_000;

/**
 * Listens to a thread for one work: `heard` what it says, `failed` when it ends or says nothing for too long. Gives what stops
 * listening.
 */
function listen(worker: Worker, heard: (said: FromThread) => void, failed: (error: Error) => void): () => void {
  let timer: NodeJS.Timeout;
  const stop = () => {
    clearTimeout(timer);
    worker.off('message', hears);
    worker.off('error', fails);
    worker.off('exit', ended);
  };
  const fails = (error: Error) => {
    stop();
    failed(error);
  };
  const ended = () => fails(new Error('The thread that worked on this ended.'));
  const wait = () => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      fails(new Error(`Nothing was heard of this for ${silenceMs / 1000} seconds: it was ended.`));
      void worker.terminate();
    }, silenceMs);
    timer.unref();
  };
  const hears = (said: FromThread) => {
    wait();
    heard(said);
  };
  worker.on('message', hears);
  worker.once('error', fails);
  worker.once('exit', ended);
  wait();
  return stop;
}

/** Work with one answer. */
export function workOnce<Kind extends keyof WorkAnswers>(
  work: Extract<LongWork, { kind: Kind }>,
): Promise<WorkAnswers[Kind]> {
  const id = ++last;
  const worker = thread();
  return new Promise((resolve, reject) => {
    const stop = listen(
      worker,
      (said) => {
        if (said.id !== id) return;
        stop();
        if ('failed' in said) reject(new Error(said.failed));
        else {
          const { done: _, ...answer } = said.step;
          resolve(answer as WorkAnswers[Kind]);
        }
      },
      reject,
    );
    worker.postMessage({ id, work } satisfies ToThread);
  });
}

/**
 * Long work as lines of JSON: what was found so far, now and then, and at the end. It goes on beside whatever else is asked, and stops when nobody reads it
 * any more; where its thread ends, the last line says so.
 */
export function streamWork(work: LongWork): ReadableStream<Uint8Array> {
  const id = ++last;
  const worker = thread();
  const tell = (message: ToThread) => worker.postMessage(message);
  const write = new TextEncoder();
  let stop = () => {};
  return new ReadableStream({
    start(controller) {
      const line = (value: unknown) => controller.enqueue(write.encode(`${JSON.stringify(value)}\n`));
      const close = () => {
        stop();
        controller.close();
      };
      const heard = (said: FromThread) => {
        if (said.id !== id) return;
        line('failed' in said ? { failed: said.failed } : said.step);
        if ('failed' in said || said.step.done) close();
      };
      const failed = (error: Error) => {
        line({ failed: error.message });
        close();
      };
      stop = listen(worker, heard, failed);
      tell({ id, work });
    },
    cancel() {
      tell({ stop: id });
      stop();
    },
  });
}

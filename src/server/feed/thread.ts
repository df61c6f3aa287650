import { MessageChannel, Worker, type MessagePort } from 'node:worker_threads';
import type { FeedAnswer } from '@/contract/feed';
import { threadFile } from '@/server/jobs';
import { fault } from '@/server/log';
import type { Shop } from '@/server/shop';
import { dataFolder } from '@/store';
import { dryFeed, takeFeed, type FeedAsk } from './take';

/** What the thread is told: lines to take, and where it says how far it is. */
export interface FeedTask {
  ask: FeedAsk;
  dry: boolean;
  port: MessagePort;
}
/** What the thread says of its lines; it waits with what it writes until it is told that nobody else does. */
export type FeedSaid = { step: 'wanted' | 'written' } | { answer: FeedAnswer } | { failed: string; code?: string };

/** So many lines are taken where the server answers: sending them to the thread would take as long. */
const maxShort = 20;
/** Lines that the thread saves as one change. Whoever saves something else waits for them, and pages are looked at again after each. */
export const atOnce = 2000;
/** The thread is kept so long after the last lines. */
const keptMs = 10 * 60_000;

const threads = globalThis as { lastFeed?: { worker: Worker; timer?: NodeJS.Timeout } };

/** The thread that takes lines; begun with the first, and again when it ended. */
function thread(): Worker {
  let kept = threads.lastFeed;
  if (!kept) {
    const { filename, execArgv } = threadFile('feed-thread', 'src/server/threads/feed-thread.ts');
    const worker = new Worker(filename, { execArgv, workerData: { folder: dataFolder() } });
    worker.setMaxListeners(100);
    worker.unref();
    const own = (threads.lastFeed = kept = { worker });
    worker.once('error', (error) => fault(error));
    worker.once('exit', () => {
      if (threads.lastFeed === own) delete threads.lastFeed;
    });
  }
  clearTimeout(kept.timer);
  const { worker } = kept;
  kept.timer = setTimeout(() => void worker.terminate(), keptMs).unref();
  return worker;
}

/** Takes lines, or says what would be taken (`dry`): in a thread of its own, so that pages are sent meanwhile. */
export function feed(shop: Shop, ask: FeedAsk, dry: boolean): Promise<FeedAnswer> {
  const isShort = !dry && ask.text.split('\n', maxShort + 1).length <= maxShort;
  if (shop.jobs && !isShort) return inThread(shop, ask, dry);
  if (dry) return dryFeed(shop, ask);
  return takeFeed(shop, ask, 100, async (step) => {
    await shop.writable();
    step();
  });
}

function inThread(shop: Shop, ask: FeedAsk, dry: boolean): Promise<FeedAnswer> {
  const worker = thread();
  const { port1: port, port2 } = new MessageChannel();
  return new Promise((resolve, reject) => {
    let written = () => {};
    const end = () => {
      written();
      port.close();
      worker.off('exit', ended);
    };
    const ended = () => {
      end();
      reject(
        new Error('The thread that took these lines ended. Send them again: what was taken is found to be the same.'),
      );
    };
    port.on('message', (said: FeedSaid) => {
      if ('step' in said) {
        if (said.step === 'written') written();
        else
          void shop.whileWriting(
            () =>
              new Promise<void>((done) => {
                written = done;
                port.postMessage('go');
              }),
          );
        return;
      }
      end();
      if ('answer' in said) resolve(said.answer);
      else reject(Object.assign(new Error(said.failed), { code: said.code }));
    });
    worker.once('exit', ended);
    worker.postMessage({ ask, dry, port: port2 } satisfies FeedTask, [port2]);
  });
}

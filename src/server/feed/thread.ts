import { MessageChannel, type MessagePort, type Worker } from 'node:worker_threads';
import type { FeedAnswer } from '@/contract/feed';
import { refuse, Refused } from '@/server/http';
import { beginThread } from '@/server/jobs';
import { fault } from '@/server/log';
import type { Shop } from '@/server/shop';
import { dataFolder, isUnwritable } from '@/store';
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
/** How many lines the thread saves as one change: other saves wait for it, and pages are checked again after it. */
export const atOnce = 2000;
/** The thread is kept so long after the last lines. */
const keptMs = 10 * 60_000;

interface Kept {
  worker: Worker;
  /** Requests that it works on, or that wait for it. */
  busy: number;
  timer?: NodeJS.Timeout;
}
const threads = globalThis as { lastFeed?: Kept };

/** The thread that takes lines; begun with the first, and again when it ended. */
function thread(): Kept {
  if (threads.lastFeed) return threads.lastFeed;
  const worker = beginThread('feed-thread', { folder: dataFolder() });
  worker.setMaxListeners(100);
  worker.unref();
  const kept: Kept = { worker, busy: 0 };
  worker.once('error', (error) => fault(error));
  worker.once('exit', () => {
    if (threads.lastFeed === kept) delete threads.lastFeed;
  });
  return (threads.lastFeed = kept);
}

const sendAgain = 'Send them again: what was taken is found to be the same.';

/** Takes lines, or says what would be taken (`dry`): many of them in a thread of its own, so that pages are sent meanwhile. */
export async function feed(shop: Shop, ask: FeedAsk, dry: boolean): Promise<FeedAnswer> {
  const isShort = !dry && ask.text.split('\n', maxShort + 1).length <= maxShort;
  try {
    if (shop.jobs && !isShort) return await inThread(shop, ask, dry);
    if (dry) return await dryFeed(shop, ask);
    return await takeFeed(shop, ask, 100, async (step) => {
      await shop.writable();
      step();
    });
  } catch (error) {
    if (!isUnwritable(error)) throw error;
    fault(error as Error);
    const why = (error as { code?: string }).code === 'SQLITE_FULL' ? 'The disk is full' : 'Nothing can be written';
    return refuse(507, 'full', `${why}: not all lines were taken. Make room, or give back its rights. ${sendAgain}`);
  }
}

function inThread(shop: Shop, ask: FeedAsk, dry: boolean): Promise<FeedAnswer> {
  const kept = thread();
  const { worker } = kept;
  const { port1: port, port2 } = new MessageChannel();
  clearTimeout(kept.timer);
  kept.busy++;
  return new Promise((resolve, reject) => {
    let isOver = false;
    let written = () => {};
    const end = () => {
      isOver = true;
      written();
      port.close();
      worker.off('exit', ended);
      if (--kept.busy === 0) kept.timer = setTimeout(() => void worker.terminate(), keptMs).unref();
    };
    const ended = () => {
      end();
      const message = `The thread that took these lines ended. ${sendAgain}`;
      reject(new Refused(503, { code: 'stopped', message }));
    };
    /** Lets it write, and keeps others from it until it has. Its turn may come when it is there no more. */
    const turn = () =>
      new Promise<void>((done) => {
        if (isOver) return done();
        written = done;
        port.postMessage('go');
      });
    port.on('message', (said: FeedSaid) => {
      if ('step' in said) {
        if (said.step === 'written') written();
        else void shop.whileWriting(turn);
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

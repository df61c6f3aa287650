import { once } from 'node:events';
import { parentPort, workerData } from 'node:worker_threads';
import type { FeedSaid, FeedTask } from '@/server/feed';
import { giveWay } from '@/server/jobs';

/** A thread that takes lines of goods, one request after another: it reads the data folder for itself. */
giveWay();
// Only now: loading gives way too.
const { dryFeed, takeFeed, atOnce, paced } = await import('@/server/feed');
const { Shop } = await import('@/server/shop');
const shop = new Shop((workerData as { folder: string }).folder);
const inPace = paced();
let before = Promise.resolve();
parentPort?.on('message', (task: FeedTask) => (before = before.then(() => take(task))));

async function take({ ask, dry, port }: FeedTask): Promise<void> {
  const say = (said: FeedSaid) => port.postMessage(said);
  try {
    const alone = (step: () => number) =>
      inPace(async () => {
        say({ step: 'wanted' });
        await once(port, 'message');
        try {
          return step();
        } finally {
          say({ step: 'written' });
        }
      });
    say({ answer: dry ? await dryFeed(shop, ask) : await takeFeed(shop, ask, atOnce, alone) });
  } catch (error) {
    const { message, code } = error as Error & { code?: string };
    say({ failed: message, ...(code ? { code } : {}) });
  } finally {
    port.close();
  }
}

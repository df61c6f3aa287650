import { parentPort } from 'node:worker_threads';
import type { GoodsSaid, GoodsTask } from '@/server/goods';
import { giveWay } from '@/server/jobs';

/** A thread for one long work on goods: it alone writes meanwhile. */
const say = (said: GoodsSaid) => parentPort?.postMessage(said);
giveWay();
// Only now: loading gives way too.
const { doGoodsWork } = await import('@/server/goods');
const { Shop } = await import('@/server/shop');
parentPort?.once('message', ({ folder, work }: GoodsTask) => void run(folder, work));

async function run(folder: GoodsTask['folder'], work: GoodsTask['work']): Promise<void> {
  const shop = new Shop(folder, { readOnly: work.kind === 'plan' });
  try {
    say({ made: await doGoodsWork(shop, work, (done) => say({ done })) });
  } catch (error) {
    const { name, status, body } = error as { name: string; status: number; body: never };
    if (name === 'Refused') say({ refused: { status, body } });
    else say({ failed: (error as Error).message });
  } finally {
    shop.sql.db.close();
    parentPort?.close();
  }
}

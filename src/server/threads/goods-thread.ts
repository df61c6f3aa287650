import { parentPort, workerData } from 'node:worker_threads';
import { doGoodsWork, type GoodsSaid, type GoodsWork } from '@/server/goods';
import { giveWay } from '@/server/jobs';
import { Shop } from '@/server/shop';

/** A thread for one long work on goods: it alone writes meanwhile. */
const { folder, work } = workerData as { folder: string; work: GoodsWork };
const say = (said: GoodsSaid) => parentPort?.postMessage(said);
giveWay();
const shop = new Shop(folder, { readOnly: work.kind === 'plan' });
try {
  say({ made: await doGoodsWork(shop, work, (done) => say({ done })) });
} catch (error) {
  const { name, status, body } = error as { name: string; status: number; body: never };
  if (name === 'Refused') say({ refused: { status, body } });
  else say({ failed: (error as Error).message });
} finally {
  shop.sql.db.close();
}

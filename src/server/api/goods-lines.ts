import { goodsWork, type GoodsWork, type MadeOf } from '@/server/goods';
import { Refused } from '@/server/http';
import type { Shop } from '@/server/shop';
import { lines } from './lines';

/** Long work on goods as lines: how far it is, and at the end what `last` says of it. */
export const goodsLines = <Work extends GoodsWork>(
  shop: Shop,
  work: Work,
  last: (made: MadeOf<Work> | null) => object,
): ReadableStream<Uint8Array> =>
  lines(async (line, signal) => {
    let done = 0;
    try {
      const made = await goodsWork(shop, work, (count) => line({ done: (done = count) }), signal);
      line({ done, ...last(made) });
    } catch (error) {
      if (!(error instanceof Refused) || !error.body.left) throw error;
      line({ done, asked: error.body.left });
    }
  });

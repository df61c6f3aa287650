import { createServer } from 'node:net';
import { demo, seed } from '@/server/seeding';
import { takeFolder, DataFolderError, dataFolder, Shop } from '@/server/shop';
import { manyGoods } from '../../demo/many';

/** Fills the data folder with the demo when it is empty. Returns the exit status. */
export async function seedDemo(
  say: (line: string) => void,
  port: number | null,
  many: { products: number; seed: number } | null = null,
  work = true,
): Promise<number> {
  if (port !== null && !(await isFree(port))) {
    say(`Port ${port} is in use: stop what uses it, or start with another, as in PORT=${port + 1} npm run demo.`);
    return 1;
  }
  try {
    const release = takeFolder(dataFolder(), 'last seed');
    const shop = new Shop(dataFolder());
    const options = await demo();
    const filled = seed(shop, {
      ...options,
      ...(many ? { more: manyGoods(many.products, many.seed) } : {}),
      work: work ? options.work : [],
      now: new Date().toISOString(),
    });
    say(
      filled
        ? `Filled ${dataFolder()} with the demo shop, Withy Quay.`
        : `${dataFolder()} holds a shop already: left as it is.`,
    );
    shop.sql.db.close();
    release();
    return 0;
  } catch (error) {
    if (!(error instanceof DataFolderError)) throw error;
    say(error.message);
    return 1;
  }
}

function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, process.env.LAST_BIND ?? '127.0.0.1', () => server.close(() => resolve(true)));
  });
}

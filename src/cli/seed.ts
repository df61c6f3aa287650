import { demo, seed } from '@/server/seeding';
import { takeFolder, DataFolderError, dataFolder, Shop } from '@/server/shop';
import { manyGoods } from '../../demo/many';

/** Fills the data folder with the demo when it is empty. Returns the exit status. */
export async function seedDemo(
  say: (line: string) => void,
  many: { products: number; seed: number } | null = null,
  work = true,
): Promise<number> {
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

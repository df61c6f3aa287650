import { DataFolderError, dataFolder, Shop } from '@/server/shop';

export type Say = (line: string) => void;

/** Runs a command on the data folder: exit status 0 when done, 1 with a sentence when it was refused. */
export async function onShop(complain: Say, work: (shop: Shop) => Promise<void> | void): Promise<number> {
  let shop: Shop | null = null;
  try {
    shop = new Shop(dataFolder());
    await work(shop);
    return 0;
  } catch (error) {
    const refused =
      error instanceof DataFolderError || error instanceof RangeError || (error as Error).name === 'Refused';
    if (!refused) throw error;
    complain((error as Error).message);
    return 1;
  } finally {
    shop?.sql.db.close();
  }
}

/** A state as `last` is given it: `live`, `release/3`, or the name of a draft. */
export const stateNamed = (name: string): string => (name === 'live' || name.includes('/') ? name : `draft/${name}`);

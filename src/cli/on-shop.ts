import { askServer, runCommand, type CommandName, type Given } from '@/server/commands';
import { dataFolder, Shop, takeFolder } from '@/server/shop';
import { said, type Say } from './said';

/** Runs a command that only reads the data folder: exit status 0 when done, 1 with a sentence when it was refused. */
export function onShop(complain: Say, work: (shop: Shop) => Promise<void> | void): Promise<number> {
  return said(complain, async () => {
    const shop = new Shop(dataFolder());
    try {
      await work(shop);
    } finally {
      shop.sql.db.close();
    }
  });
}

/** Runs a command that writes: by the server that runs on the data folder, else here, while nobody else writes in it. */
export function writing<Name extends CommandName>(
  name: Name,
  given: Given<Name>,
  say: Say,
  complain: Say,
): Promise<number> {
  return said(complain, async () => (await done(name, given)).forEach(say));
}

/** Does a command that writes, and gives what there is to say. */
export async function done<Name extends CommandName>(name: Name, given: Given<Name>): Promise<string[]> {
  const folder = dataFolder();
  const answered = await askServer(folder, name, given);
  if (answered) return answered;
  const release = takeFolder(folder, `last ${name}`);
  const shop = new Shop(folder);
  try {
    return await runCommand(shop, name, given);
  } finally {
    shop.sql.db.close();
    release();
  }
}

/** A state as `last` is given it: `live`, `release/3`, or the name of a draft. */
export const stateNamed = (name: string): string => (name === 'live' || name.includes('/') ? name : `draft/${name}`);

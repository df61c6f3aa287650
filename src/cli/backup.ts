import { resolve } from 'node:path';
import { askServer } from '@/server/commands';
import { backUp, restore, takeFolder, dataFolder } from '@/server/shop';
import { said, type Say } from './said';

/** `last backup`: a copy of the data folder's database, while it is in use or not. */
export function backupCommand(file: string, say: Say, complain: Say): Promise<number> {
  return said(complain, async () => {
    const size = await backUp(dataFolder(), resolve(file));
    say(`${(size / 1e6).toFixed(1)} MB written to ${file}, and checked.`);
  });
}

/** `last restore`: replaces the data folder's database with a backup; a server that runs on it does so while it serves. */
export function restoreCommand(file: string, say: Say, complain: Say): Promise<number> {
  return said(complain, async () => {
    const folder = dataFolder();
    const answered = await askServer(folder, 'restore', { file: resolve(file) });
    if (answered) return answered.forEach((line) => say(line));
    const release = takeFolder(folder, 'last restore');
    try {
      const former = restore(folder, resolve(file), new Date().toISOString());
      say(`${folder} holds what ${file} held.${former ? ` What stood there before is in ${former}.` : ''}`);
    } finally {
      release();
    }
  });
}

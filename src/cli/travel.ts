import chokidar from 'chokidar';
import { existsSync, mkdirSync, readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { takeTheme, put, writeZip } from '@/server/drafts';
import { revisionIn, dataFolder, stateOf } from '@/server/shop';
import { done, onShop, stateNamed, writing } from './on-shop';
import { said, type Say } from './said';

const isZip = (path: string): boolean => /\.zip$/i.test(path);

/** `last out`: one layer of a draft, of a release or of what is live, as a ZIP or into a folder. */
export function outCommand(
  name: string,
  target: string,
  options: { layer?: string; over?: boolean },
  say: Say,
  complain: Say,
) {
  return onShop(complain, (shop) => {
    const { files } = takeTheme(shop, stateOf(shop, stateNamed(name)), options.layer ?? null);
    if (isZip(target)) put(target, writeZip(files));
    else {
      if (!options.over && existsSync(target) && readdirSync(target).length)
        throw new RangeError(`${target} is not empty: take another folder, or write over it with --over.`);
      mkdirSync(target, { recursive: true });
      for (const { path, bytes } of files) put(join(target, path), bytes);
    }
    say(`${files.length} files written to ${target}.`);
  });
}

/** `last in`: a ZIP or a folder in the place of a draft's own files; or, without a draft, as a version of a base or add-on. */
export function inCommand(source: string, options: { draft?: string; kind?: string }, say: Say, complain: Say) {
  const { draft = null, kind = null } = options;
  if (kind !== null && kind !== 'base' && kind !== 'add-on') {
    complain('--kind is base or add-on.');
    return Promise.resolve(2);
  }
  return writing('in', { source: resolve(source), draft, kind }, say, complain);
}

/** How often the draft is looked at, in milliseconds. */
const intervalMs = 400;

/** `last link`: keeps a folder and a draft's own layer in step until it is ended. */
export function linkCommand(draft: string, folder: string, options: { once?: boolean }, say: Say, complain: Say) {
  const given = { draft, folder: resolve(folder) };
  return said(complain, async () => {
    const turn = async () => (await done('link', given)).forEach(say);
    await turn();
    if (options.once) return;
    say(`“${draft}” and ${folder} are in step. Ctrl C ends it; the next time it goes on from here.`);
    await new Promise<void>((over, fail) => {
      let waiting: NodeJS.Timeout | null = null;
      let going = false;
      const guarded = async () => {
        if (going) return soon();
        going = true;
        await turn().catch(fail);
        going = false;
      };
      // An editor writes a file in several steps: a moment's rest makes one of them.
      const soon = () => {
        if (waiting) clearTimeout(waiting);
        waiting = setTimeout(() => void guarded(), 80);
      };
      const watcher = chokidar.watch(given.folder, {
        ignored: (path) => /(?:^|\/)\.(?:last|git)(?:\/|$)/.test(path),
        ignoreInitial: true,
        followSymlinks: false,
      });
      watcher.on('all', soon);
      let revision = -1;
      const timer = setInterval(() => {
        const now = revisionIn(dataFolder(), draft);
        if (now !== revision) soon();
        revision = now;
      }, intervalMs);
      const end = () => {
        clearInterval(timer);
        void watcher.close().then(over);
      };
      process.once('SIGINT', end);
      process.once('SIGTERM', end);
    });
  });
}

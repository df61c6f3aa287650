import chokidar from 'chokidar';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { takeTheme, putTheme } from '@/server/exchange';
import { draftOf } from '@/server/files';
import { Link, put } from '@/server/link';
import { readFolder } from '@/server/shop';
import { stateOf } from '@/server/states';
import { readZip, themeOf, writeZip, type ThemeFiles } from '@/server/travel';
import { addVersion } from '@/server/updates';
import { onShop, stateNamed, type Say } from './on-shop';

const isZip = (path: string): boolean => /\.zip$/i.test(path);

async function themeAt(path: string): Promise<ThemeFiles> {
  if (!existsSync(path)) throw new RangeError(`There is no ${path}.`);
  if (!statSync(path).isDirectory()) return themeOf(await readZip(readFileSync(path)));
  return themeOf(readFolder(path).map(([inner, bytes]) => ({ path: inner, bytes })));
}

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
export function inCommand(source: string, options: { draft?: string }, say: Say, complain: Say) {
  return onShop(complain, async (shop) => {
    const theme = await themeAt(source);
    if (options.draft === undefined) {
      const { name, version, kind } = addVersion(shop, theme);
      say(`${name} ${version} (${kind}) is here. See on the Theme screen what it would change.`);
      return;
    }
    const { changed } = putTheme(shop, draftOf(shop, options.draft), theme.files, 'command line');
    say(
      changed
        ? `${theme.files.length} files are in “${options.draft}” now, as one change.`
        : 'All of it was there already.',
    );
  });
}

/** How often the draft is looked at, in milliseconds. */
const often = 400;

/** `last link`: keeps a folder and a draft's own layer in step until it is ended. */
export function linkCommand(name: string, folder: string, options: { once?: boolean }, say: Say, complain: Say) {
  return onShop(complain, async (shop) => {
    mkdirSync(folder, { recursive: true });
    const link = new Link(shop, name, folder);
    const turn = () => {
      for (const line of link.turn()) say(line);
    };
    turn();
    if (options.once) return;
    say(`“${name}” and ${folder} are in step. Ctrl C ends it; the next time it goes on from here.`);
    await new Promise<void>((resolve, reject) => {
      let waiting: NodeJS.Timeout | null = null;
      let revision = -1;
      const guarded = () => {
        try {
          turn();
        } catch (error) {
          reject(error as Error);
        }
      };
      // An editor writes a file in several steps: a moment's rest makes one of them.
      const soon = () => {
        if (waiting) clearTimeout(waiting);
        waiting = setTimeout(guarded, 80);
      };
      const watcher = chokidar.watch(folder, {
        ignored: (path) => /(?:^|\/)\.(?:last|git)(?:\/|$)/.test(path),
        ignoreInitial: true,
      });
      watcher.on('all', soon);
      const timer = setInterval(() => {
        const now = shop.themes.draft(name)?.revision ?? -1;
        if (now !== revision) soon();
        revision = now;
      }, often);
      const end = () => {
        clearInterval(timer);
        void watcher.close().then(resolve);
      };
      process.once('SIGINT', end);
      process.once('SIGTERM', end);
    });
  });
}

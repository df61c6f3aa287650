import { existsSync, mkdirSync, readFileSync, realpathSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import writeFileAtomic from 'write-file-atomic';
import { z } from 'zod';
import { syncSteps } from '@/core/compare';
import { hashOf } from '@/store';
import { writeFiles } from './files';
import { draftOf } from '@/server/shop';
import { linkOnTheWay, readFiles } from './folder-files';
import type { Shop } from '@/server/shop';
import { wrongFile } from './travel';

const keptState = z.object({ draft: z.string(), files: z.record(z.string(), z.string()) });

/** What happened in a turn, a line each for people. */
export type Said = string;

/**
 * A folder and a draft's own layer that are kept in step, in whatever editor or by git the folder is changed. What both
 * changed is left as it is on both sides: the draft's stands below `.last/theirs` until someone has merged both.
 */
export class Link {
  readonly #own: string;
  readonly #known: string;
  /** What is wrong with a file of the folder, said once for each of its contents. */
  readonly #refused = new Map<string, string>();
  readonly #conflicts = new Map<string, string | null>();
  #both: Map<string, string>;

  /** The folder itself, wherever a link to it stands. */
  readonly folder: string;
  readonly #left = new Set<string>();

  constructor(
    readonly slug: string,
    folder: string,
  ) {
    this.folder = realpathSync(folder);
    this.#own = join(this.folder, '.last');
    if (linkOnTheWay(this.folder, '.last/theirs'))
      throw new RangeError(`${this.#own} is or holds a symbolic link: delete it, then link the folder again.`);
    this.#known = join(this.#own, 'link.json');
    mkdirSync(this.#own, { recursive: true });
    const stored = existsSync(this.#known) ? keptState.parse(JSON.parse(readFileSync(this.#known, 'utf8'))) : null;
    if (stored && stored.draft !== slug)
      throw new RangeError(
        `${folder} is linked with the draft “${stored.draft}”: take another folder, or delete ${this.#own}.`,
      );
    this.#both = new Map(Object.entries(stored?.files ?? {}));
  }

  /** Brings both to the same once, and says what was done. */
  turn(shop: Shop): Said[] {
    const draft = draftOf(shop, this.slug);
    const { files, left } = readFiles(this.folder);
    const leftAt = (path: string) =>
      [...left.keys()].find((one) => one === '' || path === one || path.startsWith(`${one}/`));
    const here = new Map([...files].map(([path, bytes]) => [path, hashOf(bytes)]));
    const own = shop.themes.hashes(shop.themes.layers(draft.id).at(-1)?.id ?? 0);
    const there = new Map([...own].map(([path, { hash }]) => [path, hash]));
    const messages: Said[] = [];
    for (const [path, why] of left)
      if (!this.#left.has(`${path} ${why}`)) {
        this.#left.add(`${path} ${why}`);
        messages.push(`left alone: ${join(this.folder, path)} (${why})`);
      }
    if (left.has('')) return messages;
    // Without its note it is another folder than the one that was in step: nothing in it was removed.
    if (!existsSync(this.#known)) this.#both = new Map();
    for (const { path, to, hash } of syncSteps(this.#both, here, there)) {
      // What cannot be read is not gone, and nothing is written over it.
      if (leftAt(path) !== undefined) continue;
      const bytes = files.get(path) ?? null;
      if (to === 'conflict' && !this.#settled(path, hash)) {
        messages.push(...this.#conflict(shop, path, hash));
        continue;
      }
      if (to === 'here') this.#write(shop, path, hash);
      else {
        const wrong = bytes && wrongFile(path, bytes);
        const key = `${path} ${here.get(path) ?? ''}`;
        if (wrong) {
          if (!this.#refused.has(key)) messages.push(`not taken: ${wrong}`);
          this.#refused.set(key, wrong);
          continue;
        }
        writeFiles(shop, draft, [{ path, bytes, expected: there.get(path) ?? null }], path, 'linked folder');
        this.#conflicts.delete(path);
      }
      const gone = to === 'here' ? hash === null : bytes === null;
      messages.push(`${to === 'here' ? 'draft → folder' : 'folder → draft'}: ${path}${gone ? ' (removed)' : ''}`);
      const now = to === 'here' ? hash : (here.get(path) ?? null);
      if (now === null) there.delete(path);
      else there.set(path, now);
      if (now === null) here.delete(path);
      else here.set(path, now);
    }
    // What is the same on both sides is what the next turn begins from; a conflict keeps what both had.
    const both = new Map<string, string>();
    for (const path of new Set([...here.keys(), ...there.keys(), ...this.#both.keys()])) {
      const [mine, theirs, was] = [here.get(path), there.get(path), this.#both.get(path)];
      if (leftAt(path) === undefined && mine === theirs) {
        if (mine !== undefined) both.set(path, mine);
      } else if (was !== undefined) both.set(path, was);
    }
    this.#both = both;
    this.#keep();
    return messages;
  }

  /** Where the draft's side of a conflict stands. */
  theirs(path: string): string {
    return join(this.#own, 'theirs', path);
  }

  /** A conflict is settled when the draft's side, as it was shown, was removed from beside the folder. */
  #settled(path: string, hash: string | null): boolean {
    return this.#conflicts.has(path) && this.#conflicts.get(path) === hash && !existsSync(this.theirs(path));
  }

  #conflict(shop: Shop, path: string, hash: string | null): Said[] {
    if (this.#conflicts.has(path) && this.#conflicts.get(path) === hash) return [];
    this.#conflicts.set(path, hash);
    const bytes = hash === null ? Buffer.from('(removed in the draft)\n') : (shop.themes.bytes(hash) ?? Buffer.of());
    put(this.theirs(path), bytes);
    return [
      `conflict: ${path} was changed on both sides; neither is touched. The draft’s stands in ${this.theirs(path)}: merge both in ${join(this.folder, path)}, then delete that one.`,
    ];
  }

  #write(shop: Shop, path: string, hash: string | null): void {
    const file = join(this.folder, path);
    const link = linkOnTheWay(this.folder, path);
    if (link) throw new RangeError(`${link}: nothing is written through it. Put a folder in its place.`);
    if (hash === null) rmSync(file, { force: true });
    else put(file, shop.themes.bytes(hash) ?? Buffer.of());
  }

  #keep(): void {
    put(
      this.#known,
      Buffer.from(`${JSON.stringify({ draft: this.slug, files: Object.fromEntries(this.#both) }, null, 1)}\n`),
    );
  }
}

/** Writes a file whole or not at all: a killed program leaves the one before. */
export function put(path: string, bytes: Buffer): void {
  mkdirSync(dirname(path), { recursive: true });
  writeFileAtomic.sync(path, bytes);
}

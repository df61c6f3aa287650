import { type FSWatcher, statSync, watch } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Addresses, setAddresses, setupFrom } from '@/server/http';
import { answerHealth, counted, type Counting, faultsOf, isHealth } from '@/server/health';
import type { PageCounts, Shop } from '@/server/shop';
import { cartDays, SentPages } from '@/server/storefront';
import { Carts, prepareNode, removeCopies, WorkingCopy } from '@/store';
import { folderOf, type InForce, inForce } from './in-force';
import { Origin } from './origin';
import { applyNext, Served } from './served';
import { ToldCache } from './tell';

export interface NodeSetup {
  /** The release file; or a folder of them, of which the newest is served. */
  file: string;
  /** Where it keeps carts and pictures in sizes. */
  folder: string;
  /** 0: any that is free. */
  port: number;
  bind: string;
  /** Names of the shop, separated by commas; the first is the one that it is known by. */
  hosts: string;
  /** A front server stands before it, and speaks HTTPS. */
  proxy: boolean;
  /** The shop's address at its workbench, which keeps carts and takes orders; left out: they are kept here. */
  origin?: string | undefined;
  /** Addresses of caches in front that are told which pages a change touches; left out: none is, and pages name no groups. */
  tell?: string[];
  /** How often a folder is looked into for a newer file, in milliseconds: where nothing reported it before. */
  lookEvery?: number;
  /** Counts answers; left out: nobody asks for figures. */
  answers?: Counting | null;
  /** Hears what happens: another file is served, or one cannot be. */
  say?: (line: string) => void;
}

export interface Node {
  port: number;
  /** The file that is served. */
  file(): string;
  /** What it serves from. */
  shop(): Shop;
  /** How often a page was made, made again, and found to be the same. */
  readonly counts: PageCounts;
  /** Takes nothing more, finishes what was begun, and ends. */
  close(): Promise<void>;
}

/** An idle connection stays open for longer than who holds one waits to use it again; a request is to be whole within a minute. In milliseconds. */
const times = { keepAliveTimeout: 75_000, headersTimeout: 60_000, requestTimeout: 60_000 };
const hour = 3_600_000;

/** What tells a file from what stood there before. */
function stampOf(file: string): string {
  const of = statSync(file, { throwIfNoEntry: false });
  return `${file} ${of?.mtimeMs} ${of?.size}`;
}

/** Hears at once of files that come into a folder, where the system reports them: the folder is checked from time to time as well. */
function watched(folder: string, heard: () => void): FSWatcher | null {
  try {
    const watcher = watch(folder, { persistent: false }, heard);
    watcher.on('error', () => watcher.close());
    return watcher;
  } catch {
    return null;
  }
}

/**
 * Serves the shop of a release file, which it only reads, with the delta files beside it, which it applies to a copy. Of a folder it serves the newest
 * release file, and goes over to the next one between two requests; the one before stays for files of its theme, which pages that were sent still ask for.
 *
 * @throws DataFolderError when the file cannot be used; an error of `node:net` when the port cannot
 */
export async function serveRelease(setup: NodeSetup): Promise<Node> {
  const { file, folder, port, bind, hosts, proxy, lookEvery = 1000, say = () => {} } = setup;
  const origin = setup.origin === undefined ? null : new Origin(setup.origin);
  const caches = (setup.tell ?? []).map((address) => new ToldCache(address, say));
  const server = createServer(times);
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(port, bind, () => resolve()));
  const own = (server.address() as AddressInfo).port;
  const env = { LAST_BIND: bind, LAST_HOST: hosts, LAST_SHOP_HOST: hosts, LAST_PROXY: proxy ? '1' : '0' };
  const addresses = new Addresses(setupFrom(env, { port: own, sitePort: own, draftPort: own }));
  setAddresses(addresses);
  /** Where one cannot be applied, those before it stand. */
  const tryApply = (copy: WorkingCopy, deltas: InForce['deltas']): void => {
    try {
      applyNext(copy, deltas);
    } catch (error) {
      sayOnce((error as Error).message);
    }
  };
  /** Whether delta files are to come: the copy that they are applied to is served before the first, which then is in force at once. */
  const isFollowing = folderOf(file) === file;
  /** A release of which there is no copy that no delta file has changed. */
  let noCopyOf = '';
  /** Opens the files in force, to take over from those served before. */
  const served = async (wanted: InForce, before: Served | null): Promise<Served> => {
    prepareNode(folder, wanted.file);
    // The first answer does not wait for a copy.
    const withCopy = wanted.chain !== null || (before !== null && isFollowing);
    const copy = withCopy ? await WorkingCopy.of(folder, wanted.file, wanted.chain) : null;
    if (withCopy && !copy) noCopyOf = wanted.file;
    try {
      if (copy) tryApply(copy, wanted.deltas);
      return new Served(wanted.file, copy, folder, addresses, before, origin);
    } catch (error) {
      copy?.close();
      throw error;
    }
  };
  let said = '';
  const sayOnce = (what: string): void => {
    if (what !== said) say((said = what));
  };
  let now: Served;
  try {
    now = await served(inForce(file), null);
  } catch (error) {
    server.close();
    throw error;
  }
  const sent = caches.length ? (now.shop.pages.sent = new SentPages()) : null;
  let telling = Promise.resolve();
  /** Tells the caches what has changed of the pages that were sent, one change after another. */
  const tellCaches = (): void => {
    if (!sent) return;
    telling = telling
      .then(async () => {
        const groups = await sent.changed(() => now.shop);
        if (groups.length) caches.forEach((one) => one.tell(groups));
      })
      .catch((error: Error) => sayOnce(error.message));
  };
  let before: Served | null = null;
  /** A file that could not be used is tried again once it is another, as when it has been copied to its end. */
  let refused = '';
  const goOver = async (wanted: InForce): Promise<void> => {
    const seen = [wanted.file, ...wanted.deltas.map((one) => one.file)].map(stampOf).join('\n');
    if (seen === refused) return;
    try {
      const next = await served(wanted, now);
      next.warm();
      if (next.file === now.file) void now.end();
      else {
        void before?.end();
        before = now;
        say(`Serving ${next.file}`);
      }
      now = next;
      const copies = [now, before].flatMap((one) => one?.copy?.file ?? []);
      removeCopies(folder, copies);
      tellCaches();
    } catch (error) {
      refused = seen;
      say(`${(error as Error).message} Still serving ${now.file}.`);
    }
  };
  const look = async (): Promise<void> => {
    const wanted = inForce(file);
    const { copy } = now;
    const chains = [wanted.chain, ...(copy ? [null] : [])];
    const isIt = wanted.file === now.file && chains.includes(copy?.chain ?? null);
    const lacksCopy = isFollowing && !copy && noCopyOf !== now.file;
    if (!isIt || lacksCopy) return goOver(wanted);
    if (!copy) return;
    const { number } = copy.last();
    tryApply(copy, wanted.deltas);
    now.shop.changed();
    if (copy.last().number !== number) tellCaches();
  };
  let closing: Promise<void> | null = null;
  let looking: Promise<void> | null = null;
  let isDue = false;
  /** Looks what is in force; where something came while it was looked, once more. */
  const tryLook = (): Promise<void> => {
    if (looking) isDue = true;
    looking ??= look()
      .catch((error: Error) => sayOnce(error.message))
      .finally(() => {
        looking = null;
        if (isDue && !closing) {
          isDue = false;
          void tryLook();
        }
      });
    return looking;
  };
  const answer = counted('shop', setup.answers ?? null, (request, response) => {
    const asset = /^\/(assets\/[^?]+)\?v=(\w+)$/.exec(request.url ?? '');
    const [, path = '', version = ''] = asset ?? [];
    if (!asset || now.hasAsset(path, version)) return now.answer(request, response);
    if (before?.hasAsset(path, version)) return before.answer(request, response);
    // A process beside this one may have gone over already, and sent the page that asks.
    void tryLook().then(() => now.answer(request, response));
  });
  server.on('request', (request, response) => {
    const asked = request.url ?? '';
    if (isHealth(asked)) answerHealth(response, asked, () => faultsOf(now.shop, folder));
    else answer(request, response);
  });
  const timer = setInterval(() => void tryLook(), lookEvery);
  const watcher = isFollowing ? watched(file, () => void tryLook()) : null;
  const forget = setInterval(() => new Carts(now.shop.carts).forgetOlder(cartDays, new Date()), hour);
  for (const one of [timer, forget]) one.unref();
  const close = async (): Promise<void> => {
    clearInterval(timer);
    clearInterval(forget);
    watcher?.close();
    await looking;
    const closed = new Promise<void>((resolve) => server.close(() => resolve()));
    // A connection that was busy is idle once its answer is sent.
    const idle = setInterval(() => server.closeIdleConnections(), 20);
    await closed;
    clearInterval(idle);
    await telling;
    await Promise.all(caches.map((one) => one.close()));
    await Promise.all([now.end(), before?.end()]);
    origin?.close();
  };
  if (isFollowing) void tryLook();
  tellCaches();
  return {
    port: own,
    file: () => now.file,
    shop: () => now.shop,
    counts: now.shop.pages.counts,
    close: () => (closing ??= close()),
  };
}

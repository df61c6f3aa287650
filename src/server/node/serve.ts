import { statSync } from 'node:fs';
import { createServer, type IncomingMessage, type RequestListener, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Addresses, setAddresses, setupFrom } from '@/server/http';
import { type PageCounts, Shop } from '@/server/shop';
import { cartDays, pageOf, siteListener, type Elsewhere } from '@/server/storefront';
import { Carts, prepareNode } from '@/store';
import { newestRelease } from './newest';
import { Origin } from './origin';

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
  /** How often a folder is looked into for a newer file, in milliseconds. */
  lookEvery?: number;
  /** Hears what happens: another file is served, or one cannot be. */
  say?: (line: string) => void;
}

export interface Node {
  port: number;
  /** The file that is served. */
  file(): string;
  /** How often a page was made, made again, and found to be the same. */
  readonly counts: PageCounts;
  /** Takes nothing more, finishes what was begun, and ends. */
  close(): Promise<void>;
}

/** An idle connection stays open for longer than who holds one waits to use it again; a request is to be whole within a minute. In milliseconds. */
const times = { keepAliveTimeout: 75_000, headersTimeout: 60_000, requestTimeout: 60_000 };
const hour = 3_600_000;

/** One release file while it is served: whoever asked it is answered from it, whatever is served by then. */
class Served {
  readonly shop: Shop;
  readonly #listener: RequestListener;
  #open = 0;
  #ended: (() => void) | null = null;

  constructor(
    readonly file: string,
    folder: string,
    addresses: Addresses,
    /** The one that it takes the place of: pages of which nothing has changed are its too. */
    before: Served | null,
    elsewhere: Elsewhere | null,
  ) {
    prepareNode(folder, file);
    this.shop = new Shop(folder, { release: file, ...(before ? { pages: before.shop.pages } : {}) });
    this.#listener = siteListener(() => this.shop, addresses, { shopOnly: true, elsewhere });
  }

  /** Reads what its first visitor would wait for. */
  warm(): void {
    const live = this.shop.themes.live();
    if (live) pageOf(this.shop, live, { path: '/', query: {} });
  }

  answer(request: IncomingMessage, response: ServerResponse): void {
    this.#open++;
    response.once('close', () => {
      if (--this.#open === 0) this.#ended?.();
    });
    this.#listener(request, response);
  }

  /** Whether it has the version of a file of the theme that an address names. */
  hasAsset(path: string, version: string): boolean {
    return this.shop.themes.bytesOfVersion(path, version) !== null;
  }

  /** Ends it once all that was asked of it is answered. */
  async end(): Promise<void> {
    if (this.#open > 0) await new Promise<void>((resolve) => (this.#ended = resolve));
    this.shop.carts.db.close();
    this.shop.sql.db.close();
  }
}

/**
 * Serves the shop of a release file, which it only reads. Of a folder it serves the newest file, and goes over to the next one between two requests; the
 * one before stays for files of its theme, which pages that were sent still ask for.
 *
 * @throws DataFolderError when the file cannot be used; an error of `node:net` when the port cannot
 */
export async function serveRelease(setup: NodeSetup): Promise<Node> {
  const { file, folder, port, bind, hosts, proxy, lookEvery = 1000, say = () => {} } = setup;
  const origin = setup.origin === undefined ? null : new Origin(setup.origin);
  const server = createServer(times);
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(port, bind, () => resolve()));
  const own = (server.address() as AddressInfo).port;
  const env = { LAST_BIND: bind, LAST_HOST: hosts, LAST_SHOP_HOST: hosts, LAST_PROXY: proxy ? '1' : '0' };
  const addresses = new Addresses(setupFrom(env, { port: own, sitePort: own, draftPort: own }));
  setAddresses(addresses);
  let now: Served;
  try {
    now = new Served(newestRelease(file), folder, addresses, null, origin);
  } catch (error) {
    server.close();
    throw error;
  }
  let before: Served | null = null;
  /** A file that could not be used is tried again once it is another, as when it has been copied to its end. */
  let refused = '';
  const look = (): void => {
    const newest = newestRelease(file);
    if (newest === now.file) return;
    const { mtimeMs, size } = statSync(newest);
    const seen = `${newest} ${mtimeMs} ${size}`;
    if (seen === refused) return;
    try {
      const next = new Served(newest, folder, addresses, now, origin);
      next.warm();
      void before?.end();
      [before, now] = [now, next];
      say(`Serving ${newest}`);
    } catch (error) {
      refused = seen;
      say(`${(error as Error).message} Still serving ${now.file}.`);
    }
  };
  const tryLook = (): void => {
    try {
      look();
    } catch (error) {
      say((error as Error).message);
    }
  };
  server.on('request', (request, response) => {
    const asset = /^\/(assets\/[^?]+)\?v=(\w+)$/.exec(request.url ?? '');
    const [, path = '', version = ''] = asset ?? [];
    if (!asset || now.hasAsset(path, version)) return now.answer(request, response);
    if (before?.hasAsset(path, version)) return before.answer(request, response);
    // A process beside this one may have gone over already, and sent the page that asks.
    tryLook();
    now.answer(request, response);
  });
  const looking = setInterval(tryLook, lookEvery);
  const forget = setInterval(() => new Carts(now.shop.carts).forgetOlder(cartDays, new Date()), hour);
  for (const timer of [looking, forget]) timer.unref();
  let closing: Promise<void> | null = null;
  const close = async (): Promise<void> => {
    clearInterval(looking);
    clearInterval(forget);
    const closed = new Promise<void>((resolve) => server.close(() => resolve()));
    // A connection that was busy is idle once its answer is sent.
    const idle = setInterval(() => server.closeIdleConnections(), 20);
    await closed;
    clearInterval(idle);
    await Promise.all([now.end(), before?.end()]);
    origin?.close();
  };
  return { port: own, file: () => now.file, counts: now.shop.pages.counts, close: () => (closing ??= close()) };
}

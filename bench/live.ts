import { spawn } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import autocannon from 'autocannon';
import { pageOf } from '@/server/storefront/page';
import { Shop } from '@/server/shop/shop';
import { seeded, serve, type Served } from './server';

export interface Report {
  asked(...names: string[]): boolean;
  say(line: string): void;
  figure(name: string, value: number, unit: string, against: string): void;
}

const product = '/product/tarred-hemp-rope';
const listing = '/category/rope-and-cord?colour=navy,black&stock=in';

/** Figures of the served shop: over HTTP against a bare server, over catalogues of two sizes, and after a cold start. */
export async function liveFigures(report: Report): Promise<void> {
  const { asked } = report;
  if (asked('live.hit', 'live.hit.listing', 'live.made', 'live.made.listing')) await hits(report);
  if (asked('live.cold')) await cold(report);
  if (asked('memory.addresses', 'start.ready')) await memory(report);
  if (asked('live.scale.product', 'live.scale.listing')) scale(report);
}

export const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] as number;

/** A `node:http` server in a process of its own that sends a page's bytes. */
export async function bareServer(folder: string, page: string): Promise<{ at: string; end(): void }> {
  const file = join(folder, 'bare-page.html');
  writeFileSync(file, page);
  const child = spawn('node', ['bench/bare-server.mjs', file], { stdio: ['ignore', 'pipe', 'inherit'] });
  const port = await new Promise<string>((resolve) =>
    child.stdout.once('data', (text: Buffer) => resolve(text.toString().trim())),
  );
  return { at: `http://127.0.0.1:${port}`, end: () => child.kill('SIGKILL') };
}

/** Requests a second of an address, 10 connections for some seconds. `each`: another address each time, with the same page. */
export async function rateOf(at: string, host: string, each = false, seconds = 3): Promise<number> {
  const url = each ? `${at}${at.includes('?') ? '&' : '?'}n=[<id>]` : at;
  const result = await autocannon({
    url,
    connections: 10,
    duration: seconds,
    idReplacement: each,
    headers: { Host: host },
  });
  if (result.non2xx || result.errors) throw new Error(`${url}: ${result.non2xx} answers were no page`);
  return result.requests.average;
}

/**
 * Requests a second of a page over those of a bare `node:http` server that sends the same bytes: a page that nothing has
 * changed since it was made (`live.hit`), and one made for each request (each address is asked for once). Rounds alternate.
 */
async function hits({ say, figure }: Report): Promise<void> {
  say('The served shop against a bare node:http server sending the same bytes, 10 connections');
  const folder = seeded(null);
  const server = await serve(folder);
  const rate = (at: string, each = false) => rateOf(at, server.host(), each);
  try {
    for (const [suffix, page] of [
      ['', product],
      ['.listing', listing],
    ] as const) {
      const bare = await bareServer(folder, (await server.visit(page)).text);
      const hit: number[] = [];
      const made: number[] = [];
      await rate(server.site + page);
      await rate(bare.at);
      for (let round = 0; round < 5; round++) {
        const limit = await rate(bare.at);
        const [kept, each] = [await rate(server.site + page), await rate(server.site + page, true)];
        hit.push(kept / limit);
        made.push(each / limit);
        say(`  ${limit.toFixed(0)} bare, ${kept.toFixed(0)} served, ${each.toFixed(0)} made each time, a second`);
      }
      bare.end();
      figure(`live.hit${suffix}`, median(hit), '×', 'a bare node:http server sending the same bytes; at least 0.60');
      figure(
        `live.made${suffix}`,
        median(made),
        '×',
        'the same, each page rendered for its request; a product page at least 0.10',
      );
    }
  } finally {
    server.end();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** What a started server takes: until it is ready, and its memory after many addresses over that after some. */
async function memory({ say, figure }: Report): Promise<void> {
  say('A server as it starts, and after 20,000 distinct addresses of product pages');
  const folder = seeded(null);
  const starts: number[] = [];
  let server: Served | null = null;
  for (let start = 0; start < 5; start++) {
    server?.end();
    const begin = performance.now();
    server = await serve(folder);
    starts.push(performance.now() - begin);
  }
  const { site, host, pid, end } = server as Served;
  /** Resident memory in MB (proc(5), VmRSS). */
  const resident = (): number => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1024;
  const visit = async (amount: number): Promise<number> => {
    const url = `${site}${product}?n=[<id>]`;
    await autocannon({ url, connections: 10, amount, idReplacement: true, headers: { Host: host() } });
    return resident();
  };
  try {
    const [some, many] = [await visit(2000), await visit(18_000)];
    figure(
      'start.ready',
      median(starts),
      'ms',
      'from the start of the process until “Last is ready”, the middle of five; at most 2,000',
    );
    figure(
      'memory.addresses',
      many / some,
      '×',
      `resident memory after 20,000 addresses (${many.toFixed(0)} MB) over that after 2,000; at most 1.20`,
    );
  } finally {
    end();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Time of a page of each kind after the first ten requests of a server just started, over its time when warm: of three starts the median, of the kinds the worst. */
async function cold({ say, figure }: Report): Promise<void> {
  say('A page of each kind after a cold start');
  const kinds: Record<string, string> = {
    home: '/',
    product,
    category: '/category/rope-and-cord',
    listing: '/listing/all',
    search: '/listing/search?q=rope',
    content: '/content/care',
    article: '/article/first-eye-splice',
    articles: '/article',
    cart: '/cart',
  };
  const folder = seeded(null);
  const time = async (server: Served, path: string): Promise<number> => {
    const from = performance.now();
    await server.visit(path);
    return performance.now() - from;
  };
  let worst = 0;
  try {
    for (const [kind, path] of Object.entries(kinds)) {
      const ratios: number[] = [];
      let times: number[] = [];
      for (let start = 0; start < 3; start++) {
        const server = await serve(folder);
        times = [];
        for (let at = 0; at < 500; at++) times.push(await time(server, path));
        server.end();
        ratios.push(median(times.slice(10, 40)) / median(times.slice(-200)));
      }
      const ratio = median(ratios);
      say(
        `  ${kind}: first ${times[0]?.toFixed(0)} ms, then ${median(times.slice(10, 40)).toFixed(2)}, warm ${median(times.slice(-200)).toFixed(2)}: ${ratios.map((one) => one.toFixed(2)).join(', ')}`,
      );
      worst = Math.max(worst, ratio);
    }
    figure('live.cold', worst, '×', 'its warm time');
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Time to make a page at 100,000 products over that at 1,000: medians over many addresses, each asked for once, in turns. */
function scale({ say, figure }: Report): void {
  say('Catalogues of 1,000 and 100,000 products (filling them takes about a minute)');
  const folders = [seeded(1_000), seeded(100_000)];
  const shops = folders.map((folder) => new Shop(folder));
  const colours = ['navy', 'signal-red', 'white', 'black', 'natural', 'ochre', 'bottle-green'];
  const listings = ['rope-and-cord', 'canvas-and-flags', 'finishes', 'synthetic-rope'].flatMap((category) =>
    colours.flatMap((colour, at) =>
      ['', ...colours.slice(at + 1)].flatMap((other) =>
        ['', '&stock=in'].map((stock) => `/category/${category}?colour=${colour}${other && `,${other}`}${stock}`),
      ),
    ),
  );
  const products = shops.map((shop) =>
    shop.sql
      .all<{ slug: string }>('SELECT slug FROM product WHERE id % (SELECT max(id) / 400 FROM product) = 0 LIMIT 300')
      .map(({ slug }) => `/product/${slug}`),
  );
  const run = (name: string, addresses: (shop: number) => string[], unit: string): void => {
    const times = shops.map((): number[] => []);
    const lists = shops.map((_, at) => addresses(at));
    for (let n = 0; n < (lists[0] as string[]).length; n++) {
      shops.forEach((shop, at) => {
        const live = shop.themes.live();
        const address = (lists[at] as string[])[n];
        if (!live || !address) return;
        const url = new URL(address, 'http://shop.invalid');
        const from = performance.now();
        pageOf(shop, live, { path: url.pathname, query: Object.fromEntries(url.searchParams) });
        // The first addresses warm the code and the columns.
        if (n >= 60) (times[at] as number[]).push(performance.now() - from);
      });
    }
    const [small, large] = times.map(median) as [number, number];
    say(`  ${unit}: ${small.toFixed(2)} ms at 1,000, ${large.toFixed(2)} ms at 100,000`);
    figure(name, large / small, '×', '1,000 products');
  };
  try {
    run('live.scale.product', (at) => products[at] as string[], 'product');
    run('live.scale.listing', () => listings, 'category with filters');
  } finally {
    for (const shop of shops) shop.sql.db.close();
    for (const folder of folders) rmSync(folder, { recursive: true, force: true });
  }
}

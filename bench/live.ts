import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { Agent, get } from 'node:http';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import autocannon from 'autocannon';
import { pageOf } from '@/server/page';
import { Shop } from '@/server/shop';

export interface Report {
  asked(...names: string[]): boolean;
  say(line: string): void;
  figure(name: string, value: number, unit: string, against: string): void;
}

const product = '/product/tarred-hemp-rope';
const listing = '/category/rope-and-cord?colour=navy,black&stock=in';

/** Figures of the served shop: over HTTP against a bare route, over catalogues of two sizes, and after a cold start. */
export async function liveFigures(report: Report): Promise<void> {
  const { asked } = report;
  if (asked('live.bare', 'live.bare.listing', 'live.made', 'live.made.listing')) await bare(report);
  if (asked('live.cold')) await cold(report);
  if (asked('live.scale.product', 'live.scale.listing')) scale(report);
}

/** A data folder with the demo in it, and so many products after the demo's. */
export function seeded(products: number | null): string {
  const folder = mkdtempSync(join(tmpdir(), 'last-bench-'));
  const more = products === null ? [] : ['--products', String(products)];
  const { status, stderr } = spawnSync('npx', ['tsx', 'src/cli/main.ts', 'seed', ...more], {
    env: { ...process.env, LAST_DATA: folder, PORT: '0' },
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(`The demo could not be filled in: ${stderr}`);
  return folder;
}

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });

/** A server of the built workbench on a folder. */
export async function serve(folder: string): Promise<{ at: string; pid: number; end(): void }> {
  if (!existsSync('.next/BUILD_ID')) spawnSync('npm', ['run', 'build'], { stdio: 'ignore' });
  const port = await freePort();
  const child: ChildProcess = spawn('node', ['--import', 'tsx', 'src/server/start.ts'], {
    env: { ...process.env, PORT: String(port), LAST_DATA: folder, LAST_BENCH: '1', NODE_ENV: 'production' },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  await new Promise<void>((resolve, reject) => {
    child.stdout?.on('data', (text: Buffer) => text.toString().includes('Last is ready') && resolve());
    child.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
  });
  return { at: `http://127.0.0.1:${port}`, pid: child.pid ?? 0, end: () => child.kill('SIGKILL') };
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] as number;

/**
 * Requests a second of a page over those of a bare route that sends the same bytes: as served (a page that nothing has
 * changed since is kept) and made anew for each request (each address is asked for once). Rounds alternate.
 */
async function bare({ say, figure }: Report): Promise<void> {
  say('The served shop against a bare route sending the same bytes, 10 connections');
  const folder = seeded(null);
  const server = await serve(folder);
  const rate = async (path: string, anew = false): Promise<number> => {
    const url = `${server.at}${path}${anew ? `${path.includes('?') ? '&' : '?'}n=[<id>]` : ''}`;
    const result = await autocannon({ url, connections: 10, duration: 3, idReplacement: anew });
    if (result.non2xx || result.errors) throw new Error(`${path}: ${result.non2xx} answers were no page`);
    return result.requests.average;
  };
  try {
    for (const [suffix, page] of [
      ['', product],
      ['.listing', listing],
    ] as const) {
      const route = `/api/bare?page=${encodeURIComponent(page)}`;
      const ratios: number[] = [];
      const anew: number[] = [];
      await rate(`/live${page}`);
      await rate(route);
      for (let round = 0; round < 5; round++) {
        const [limit, served, made] = [await rate(route), await rate(`/live${page}`), await rate(`/live${page}`, true)];
        ratios.push(served / limit);
        anew.push(made / limit);
        say(`  ${limit.toFixed(0)} bare, ${served.toFixed(0)} served, ${made.toFixed(0)} made anew, a second`);
      }
      figure(`live.bare${suffix}`, median(ratios), '×', 'a bare route sending the same bytes');
      figure(`live.made${suffix}`, median(anew), '×', 'the same, each page made anew');
    }
  } finally {
    server.end();
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
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  const time = (url: string) =>
    new Promise<number>((resolve, reject) => {
      const from = performance.now();
      get(url, { agent }, (answer) => answer.resume().on('end', () => resolve(performance.now() - from))).on(
        'error',
        reject,
      );
    });
  let worst = 0;
  try {
    for (const [kind, path] of Object.entries(kinds)) {
      const ratios: number[] = [];
      let times: number[] = [];
      for (let start = 0; start < 3; start++) {
        const server = await serve(folder);
        times = [];
        for (let at = 0; at < 500; at++) times.push(await time(`${server.at}/live${path}`));
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

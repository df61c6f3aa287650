import { execFile, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import getPort from 'get-port';
import { promisify } from 'node:util';
import { saveRecords } from '@/server/records';
import { pack, ReleaseFolder, Shop } from '@/server/shop';
import { RecordReader } from '@/store';
import { bareServer, median, rateOf, type Report } from './live';
import { share } from './painted';
import { seeded } from './server';

const many = 100_000;
const product = '/product/tarred-hemp-rope';

interface Running {
  at: string;
  pid: number;
  /** From the start of the process to the first page, in milliseconds. */
  startMs: number;
  /** From the first request, sent as soon as the process says that it serves, to its page. */
  coldMs: number;
  end(): void;
}

/** A render node in a process of its own, once it has answered with a page. `log`: it notes its answers there, and counts them. */
async function serving(file: string, log = ''): Promise<Running> {
  const port = await getPort();
  const data = mkdtempSync(join(tmpdir(), 'bench-node-'));
  const from = performance.now();
  const args = ['.bundle/last.mjs', 'serve', file, '--port', String(port), '--data', data, '--processes', '1'];
  if (log) args.push('--metrics', String(await getPort()));
  const child = spawn('node', args, {
    env: { ...process.env, NODE_ENV: 'production', LAST_LOG: log },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise((resolve) => child.stdout.once('data', resolve));
  const at = `http://127.0.0.1:${port}`;
  const ready = performance.now();
  const answer = await fetch(at + product);
  await answer.text();
  if (!answer.ok) throw new Error(`The node answered with ${answer.status}`);
  const whole = performance.now();
  return {
    at,
    pid: child.pid ?? 0,
    startMs: whole - from,
    coldMs: whole - ready,
    end: () => void child.kill('SIGKILL'),
  };
}

/** Figures of release files and of the node that serves them. */
export async function nodeFigures(report: Report): Promise<void> {
  const { asked, say, figure } = report;
  if (!asked('pack', 'node.cold', 'node.hit', 'node.made', 'node.watched', 'node.memory', 'delta', 'site')) return;
  say('A release file, and a render node');
  const out = mkdtempSync(join(tmpdir(), 'bench-pack-'));
  const small = pack(seeded(null), 'live', out);
  if (asked('node.cold')) {
    const [starts, firsts]: [number[], number[]] = [[], []];
    for (let start = 0; start < 5; start++) {
      const node = await serving(small.file);
      starts.push(node.startMs);
      firsts.push(node.coldMs);
      node.end();
    }
    figure(
      'node.cold',
      median(firsts),
      'ms',
      'the first page, asked for as soon as the node says that it serves, the middle of five; at most 300',
    );
    figure('node.start', median(starts), 'ms', 'from the start of the process to that page');
  }
  if (asked('node.hit', 'node.made')) await rates(small.file, out, report);
  if (asked('node.watched')) await watchedFigure(small.file, out, report);
  if (asked('pack', 'node.memory')) {
    const folder = seeded(many);
    const from = performance.now();
    const { file, size } = pack(folder, 'live', out);
    const seconds = (performance.now() - from) / 1000;
    figure(
      'pack',
      seconds,
      's',
      `${many.toLocaleString('en')} products into ${(size / 1e6).toFixed(0)} MB; at most 60`,
    );
    const node = await serving(file);
    figure(
      'node.cold.large',
      node.coldMs,
      'ms',
      `the first page at ${many.toLocaleString('en')} products; at most 1,500`,
    );
    figure('node.start.large', node.startMs, 'ms', 'from the start of that process to the page');
    await rateOf(node.at + product, new URL(node.at).host, true);
    const resident = Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${node.pid}/status`, 'utf8'))?.[1]) / 1024;
    figure('node.memory', resident, 'MB', 'its memory after pages of many addresses; at most 500');
    node.end();
  }
  if (asked('delta')) await deltaFigures(report);
  if (asked('site')) await siteFigures(out, report);
  rmSync(out, { recursive: true, force: true });
}

/** Milliseconds that a process has had of the machine: clock ticks of a hundredth of a second (proc(5)). */
function workedMs(pid: number): number {
  const [user = 0, system = 0] =
    readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ').slice(11, 13) ?? [];
  return (Number(user) + Number(system)) * 10;
}

/**
 * What an answer takes where answers are noted and counted, over what it takes where they are not: work of the process, in rounds that alternate. The
 * machine's other work only adds to it, so that of each the lower quartile counts.
 */
async function watchedFigure(file: string, out: string, { say, figure }: Report): Promise<void> {
  const [plain, watched] = [await serving(file), await serving(file, join(out, 'node.log'))];
  const seconds = 2;
  const kinds = [
    ['node.watched', false, 'that is kept'],
    ['node.watched.made', true, 'that is made for each request'],
  ] as const;
  for (const [name, each, what] of kinds) {
    const perAnswer = async ({ at, pid }: Running): Promise<number> => {
      const before = workedMs(pid);
      const rate = await rateOf(at + product, new URL(at).host, each, seconds);
      return ((workedMs(pid) - before) * 1000) / (rate * seconds);
    };
    for (const one of [plain, watched]) await perAnswer(one);
    const [without, noted]: [number[], number[]] = [[], []];
    for (let round = 0; round < 20; round++) {
      without.push(await perAnswer(plain));
      noted.push(await perAnswer(watched));
    }
    const [low, high] = [share(without, 0.25), share(noted, 0.25)];
    say(`  a page ${what}: ${low.toFixed(1)} µs an answer, ${high.toFixed(1)} µs where it is noted and counted`);
    figure(
      name,
      (high / low - 1) * 100,
      '%',
      `more work for a page ${what}, where answers are noted and counted; at most 2`,
    );
  }
  for (const one of [plain, watched]) one.end();
}

/** A thousand changed prices at 100,000 products: until their file is written, and from then until a node shows them. */
async function deltaFigures({ say, figure }: Report): Promise<void> {
  const folder = seeded(many);
  const shop = new Shop(folder);
  const out = mkdtempSync(join(tmpdir(), 'bench-delta-'));
  const releases = new ReleaseFolder(folder, out);
  releases.look();
  const node = await serving(out);
  // The copy that changes are applied to is made while the node serves already.
  await new Promise((resolve) => setTimeout(resolve, 10_000));
  const slugs = new RecordReader(shop.catalogue()).productSlugs().slice(0, 1000);
  const [written, shown]: [number[], number[]] = [[], []];
  for (let round = 1; round <= 5; round++) {
    const was = new RecordReader(shop.catalogue()).read('product', slugs);
    const changes = [...was].map(([slug, before]) => {
      const variants = (before.variants as object[]).map((one) => ({ ...one, price: 100_000 + round, wasPrice: null }));
      return { kind: 'product', slug, before, after: { ...before, variants } } as const;
    });
    saveRecords(shop, changes, { title: 'Prices', at: new Date().toISOString(), by: '' });
    const from = performance.now();
    releases.look();
    const at = performance.now();
    written.push((at - from) / 1000);
    const address = `${node.at}/product/${slugs[0]}`;
    while (!(await (await fetch(address)).text()).includes(`1,000.0${round}`))
      if (performance.now() - at > 20_000) throw new Error('The node does not show the price');
    shown.push(performance.now() - at);
    say(`  written in ${written.at(-1)?.toFixed(2)} s, shown ${shown.at(-1)?.toFixed(0)} ms later`);
  }
  figure('delta', median(written), 's', '1,000 changed prices of 100,000 products into a delta file; at most 1');
  figure('delta.inForce', median(shown), 'ms', 'from then until a node’s page shows one; at most 100');
  node.end();
  releases.close();
  shop.sql.db.close();
  rmSync(out, { recursive: true, force: true });
}

/** Writing a shop of 10,000 products in two languages as files beside a node, which shows variants: all of it, then again after one price. */
async function siteFigures(out: string, { figure }: Report): Promise<void> {
  const folder = seeded(10_000);
  const shop = new Shop(folder);
  const to = join(out, 'site');
  const make = async (): Promise<{ seconds: number; said: string }> => {
    const { file } = pack(folder, 'live', out);
    const from = performance.now();
    const args = [
      '.bundle/last.mjs',
      'site',
      file,
      '--out',
      to,
      '--host',
      'shop.example.org',
      '--node',
      '127.0.0.1:4180',
    ];
    const { stdout } = await promisify(execFile)('node', args, { env: { ...process.env, NODE_ENV: 'production' } });
    return { seconds: (performance.now() - from) / 1000, said: stdout.split('\n')[0] ?? '' };
  };
  const whole = await make();
  figure('site', whole.seconds, 's', `${whole.said} At most 120`);
  const was = new RecordReader(shop.catalogue()).read('product', ['deck-oil']).get('deck-oil') ?? {};
  const variants = (was.variants as object[]).map((one) => ({ ...one, price: 9900 }));
  const change = { kind: 'product', slug: 'deck-oil', before: was, after: { ...was, variants } } as const;
  saveRecords(shop, [change], { title: 'A price', at: new Date().toISOString(), by: '' });
  const again = await make();
  figure('site.again', again.seconds, 's', `after one price: ${again.said} At most 2`);
  shop.sql.db.close();
}

/** Requests a second against a bare server that sends the same bytes, in rounds that alternate. */
async function rates(file: string, out: string, { say, figure }: Report): Promise<void> {
  const node = await serving(file);
  const host = new URL(node.at).host;
  const bare = await bareServer(out, await (await fetch(node.at + product)).text());
  const [hit, made]: [number[], number[]] = [[], []];
  await rateOf(node.at + product, host);
  await rateOf(bare.at, host);
  for (let round = 0; round < 5; round++) {
    const limit = await rateOf(bare.at, host);
    const [kept, each] = [await rateOf(node.at + product, host), await rateOf(node.at + product, host, true)];
    hit.push(kept / limit);
    made.push(each / limit);
    say(`  ${limit.toFixed(0)} bare, ${kept.toFixed(0)} served, ${each.toFixed(0)} made each time, a second`);
  }
  bare.end();
  node.end();
  figure('node.hit', median(hit), '×', 'a bare node:http server sending the same bytes; at least 0.80');
  figure('node.made', median(made), '×', 'the same, each page rendered for its request; at least 0.12');
}

import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, mkdtempSync, utimesSync, writeFileSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import getPort from 'get-port';
import { afterEach, describe, expect, it } from 'vitest';
import { saveFiles } from '@/server/drafts';
import { saveRecords } from '@/server/records';
import { pack, Shop, stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { findSubjects, RecordReader } from '@/store';
import { localePrefix, pathOf } from '@/core/address';
import { type Front, frontConfig, fronts } from './front';
import { type Node, serveRelease } from './serve';

const newFolder = () => mkdtempSync(join(tmpdir(), 'front-'));
const name = 'withy.example';

interface Answer {
  status: number;
  headers: Record<string, unknown>;
  text: string;
}

/** Two nodes of the demo shop behind a front server, which speaks for them at a port of its own. */
class Behind {
  readonly folder = newFolder();
  readonly releases = newFolder();
  readonly shop = demoShop([], 'themes/withy-quay', new Shop(this.folder));
  readonly agent = new Agent({ keepAlive: true, maxSockets: 8 });
  readonly nodes: Node[] = [];
  readonly ports: number[] = [];
  port = 0;
  front: ChildProcess | null = null;
  /** Files of one second have an order by their times. */
  #packed = Date.now() / 1000;

  async begin(kind: Front): Promise<void> {
    this.pack('live');
    for (const at of [0, 1]) {
      this.ports[at] = await getPort();
      await this.startNode(at);
    }
    this.port = await getPort();
    const setup = { nodes: this.ports.map((port) => `127.0.0.1:${port}`), names: [name], port: this.port, tls: null };
    const work = newFolder();
    const config = frontConfig(kind, { ...setup, cache: join(work, 'cache') });
    this.front = kind === 'nginx' ? nginx(work, config) : varnish(work, config, this.port);
    let said = '';
    this.front.stderr?.on('data', (bytes) => (said += String(bytes)));
    const isThere = () =>
      this.ask('/robots.txt').then(
        ({ status }) => status,
        () => said,
      );
    await expect.poll(isThere, { timeout: 20_000 }).toBe(200);
  }

  /** Writes a release file, newer than those before. */
  pack(state: string): string {
    const { file } = pack(this.folder, state, this.releases);
    this.#packed += 1;
    utimesSync(file, this.#packed, this.#packed);
    return file;
  }

  async startNode(at: number): Promise<void> {
    const setup = { file: this.releases, folder: newFolder(), port: this.ports[at] ?? 0, bind: '127.0.0.1' };
    this.nodes[at] = await serveRelease({ ...setup, hosts: name, proxy: true, lookEvery: 20 });
  }

  ask(path: string, headers: Record<string, string> = {}, method = 'GET'): Promise<Answer> {
    return new Promise((resolve, reject) => {
      const all = { Host: `${name}:${this.port}`, ...headers };
      const sent = request({ port: this.port, path, method, agent: this.agent, headers: all }, (answer) => {
        let text = '';
        answer.setEncoding('utf8').on('data', (part: string) => (text += part));
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, text }));
        answer.on('error', reject);
      });
      sent.on('error', reject).end();
    });
  }

  changePrice(slug: string, price: number): void {
    const was = new RecordReader(this.shop.catalogue()).read('product', [slug]).get(slug) ?? {};
    const variants = (was.variants as object[]).map((one) => ({ ...one, price }));
    saveRecords(this.shop, [{ kind: 'product', slug, before: was, after: { ...was, variants } }], {
      title: 'A price',
      at: '2026-11-30T10:00:00.000Z',
      by: 'Robin',
    });
  }

  async end(): Promise<void> {
    if (this.front && this.front.exitCode === null) {
      this.front.kill('SIGTERM');
      await once(this.front, 'exit');
    }
    this.agent.destroy();
    await Promise.all(this.nodes.map((one) => one.close()));
  }
}

function nginx(work: string, config: string): ChildProcess {
  const file = join(work, 'nginx.conf');
  mkdirSync(join(work, 'cache'));
  const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map((of) => `${of}_temp_path ${work}/${of};`);
  writeFileSync(
    file,
    `daemon off; master_process off; pid ${work}/pid; error_log stderr; events {}\nhttp { access_log off; ${temporary.join(' ')}\n${config}}\n`,
  );
  return spawn('/usr/sbin/nginx', ['-p', work, '-c', file], { stdio: 'pipe' });
}

function varnish(work: string, config: string, port: number): ChildProcess {
  const file = join(work, 'shop.vcl');
  writeFileSync(file, config);
  const args = ['-F', '-f', file, '-a', `127.0.0.1:${port}`, '-n', join(work, 'n'), '-s', 'malloc,64m', '-j', 'none'];
  return spawn('/usr/sbin/varnishd', args, { stdio: 'pipe' });
}

let behind: Behind;
afterEach(() => behind.end());

describe.each(fronts)('two nodes behind %s', (kind) => {
  it('serve the shop, a changed price, a publish and a put-back, while nodes end and begin, and no visitor is refused', async () => {
    behind = new Behind();
    await behind.begin(kind);
    const { shop } = behind;
    const { locales } = shop.catalogue().shop();
    const paths = findSubjects(shop.sql, '', null, 1000)
      .filter(({ kind: of }) => of !== 'cart')
      .flatMap((one) => locales.map((locale) => localePrefix(locale, locales) + pathOf(one)));

    const pages = async () => {
      const all = new Map<string, string>();
      for (const path of paths) {
        const { status, text } = await behind.ask(path);
        expect([path, status]).toEqual([path, 200]);
        all.set(path, text);
      }
      return all;
    };
    await pages();

    // A page that nobody asked for meanwhile is not sent as it was, either.
    await new Promise((resolve) => setTimeout(resolve, 2500));
    behind.changePrice('shock-cord', 7700);
    const changed = behind.pack('live');
    await expect.poll(() => behind.nodes.every((one) => one.file() === changed), { timeout: 4000 }).toBe(true);
    expect((await behind.ask('/product/shock-cord')).text).toContain('77.00');
    const start = await pages();

    // Eight visitors go about the shop as long as this lasts.
    const seen = { answers: 0, wrong: [] as string[] };
    let isOver = false;
    const visitor = async (from: number) => {
      for (let at = from; !isOver; at += 8) {
        const path = paths[at % paths.length] ?? '/';
        const told = await behind.ask(path).then(
          ({ status, text }) => (status === 200 && text.includes('</html>') ? null : `${status}`),
          (error: Error) => error.message,
        );
        seen.answers++;
        if (told !== null) seen.wrong.push(`${path}: ${told}`);
      }
    };
    const visitors = Array.from({ length: 8 }, (_, at) => visitor(at));

    // A price changes: within two seconds it stands on each page that shows it, and few others were made again.
    for (const { counts } of behind.nodes) counts.again = 0;
    behind.changePrice('deck-oil', 9900);
    behind.pack('live');
    await expect.poll(async () => (await behind.ask('/product/deck-oil')).text, { timeout: 4000 }).toContain('99.00');
    await new Promise((resolve) => setTimeout(resolve, 2000));
    const after = await pages();
    const differ = paths.filter((path) => start.get(path) !== after.get(path)).length;
    expect(differ).toBeGreaterThan(2);
    for (const { counts } of behind.nodes) expect(counts.again).toBeLessThanOrEqual(2 * differ);

    // A publish, and a put-back.
    const isNew = async () => (await behind.ask('/product/deck-oil')).text.includes('class="new"');
    const draft = stateOf(shop, 'draft/spring');
    const text = '<draw name="layouts/shop" title="New"><p class="new">New</p></draw>\n';
    const there = shop.theme(draft).theme.layers.at(-1)?.files.get('product/default.html')?.hash ?? null;
    saveFiles(shop, draft, [{ path: 'product/default.html', text, expected: there }]);
    behind.pack('draft/spring');
    await expect.poll(isNew, { timeout: 4000 }).toBe(true);
    behind.pack('live');
    await expect.poll(isNew, { timeout: 4000 }).toBe(false);

    // Nobody works on the shop any more; nodes end and begin, one after the other.
    shop.sql.db.close();
    for (let times = 0; times < 5; times++) {
      const at = times % 2;
      await behind.nodes[at]?.close();
      await new Promise((resolve) => setTimeout(resolve, 150));
      await behind.startNode(at);
      await new Promise((resolve) => setTimeout(resolve, 150));
    }
    isOver = true;
    await Promise.all(visitors);
    expect(seen.wrong).toEqual([]);
    expect(seen.answers).toBeGreaterThan(500);

    // While no node answers, what was sent before is sent on.
    await Promise.all(behind.nodes.map((one) => one.close()));
    await new Promise((resolve) => setTimeout(resolve, 2500));
    expect((await behind.ask('/product/deck-oil')).status).toBe(200);
  });
});

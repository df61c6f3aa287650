import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, mkdtempSync, utimesSync, writeFileSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import getPort from 'get-port';
import { expect } from 'vitest';
import { saveRecords } from '@/server/records';
import { pack, Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { nginxArgs } from '@/server/testing/nginx';
import { RecordReader } from '@/store';
import { type Front, frontConfig } from '../front';
import { type Node, serveRelease } from '../serve';

const newFolder = () => mkdtempSync(join(tmpdir(), 'front-'));
const name = 'withy.example';

export interface Answer {
  status: number;
  headers: Record<string, unknown>;
  text: string;
}

/** Two nodes of the demo shop behind a front server, which speaks for them at a port of its own. */
export class Behind {
  readonly folder = newFolder();
  readonly releases = newFolder();
  readonly shop = demoShop([], 'themes/withy-quay', new Shop(this.folder));
  readonly agent = new Agent({ keepAlive: true, maxSockets: 8 });
  readonly nodes: Node[] = [];
  readonly ports: number[] = [];
  port = 0;
  front: ChildProcess | null = null;
  #tell: string[] = [];
  /** Files of one second have an order by their times. */
  #packed = Date.now() / 1000;

  /** `groups`: the nodes tell it what has changed. */
  async begin(kind: Front, groups = false): Promise<void> {
    this.pack('live');
    this.port = await getPort();
    if (groups) this.#tell = [`http://127.0.0.1:${this.port}`];
    for (const at of [0, 1]) {
      this.ports[at] = await getPort();
      await this.startNode(at);
    }
    const setup = { nodes: this.ports.map((port) => `127.0.0.1:${port}`), names: [name], port: this.port };
    const work = newFolder();
    const config = frontConfig(kind, { ...setup, groups, cache: join(work, 'cache'), tls: null });
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
    this.nodes[at] = await serveRelease({ ...setup, hosts: name, proxy: true, lookEvery: 20, tell: this.#tell });
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
  mkdirSync(join(work, 'cache'));
  return spawn('/usr/sbin/nginx', nginxArgs(work, config), { stdio: 'pipe' });
}

function varnish(work: string, config: string, port: number): ChildProcess {
  const file = join(work, 'shop.vcl');
  writeFileSync(file, config);
  const args = ['-F', '-f', file, '-a', `127.0.0.1:${port}`, '-n', join(work, 'n'), '-s', 'malloc,64m', '-j', 'none'];
  return spawn('/usr/sbin/varnishd', args, { stdio: 'pipe' });
}

import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import getPort from 'get-port';
import { frontConfig } from '@/server/node';
import { Shop } from '@/server/shop';
import { nginxArgs } from '@/server/testing/nginx';
import { Feeds } from '@/store';
import type { Report } from './live';
import { seeded, serve, type Served, type Visited } from './server';

const publishes = 200;
/** Goods that change after each publish: 10,000 in all. */
const changesEach = 50;
const visitors = 8;
/** A visitor asks for the next page so long after the last: all of them for some hundreds a second. */
const restMs = 10;
/** A publish and its changed goods come so long after the last. */
const turnMs = 1000;
/** A page that was in force this long ago, and is not any more, is stale; in milliseconds. */
const graceMs = 2000;
const product = '/product/deck-oil';

/** The marks that a release wears, and the price that stands from a moment on. */
interface InForce {
  at: number;
  turn: number;
  price: string;
}

/** Two render nodes of a folder of release files behind nginx: how to ask, and how to end it. */
async function behindNginx(releases: string): Promise<{ ask(path: string): Promise<Visited>; end(): void }> {
  const ports = [await getPort(), await getPort()];
  const host = 'shop.example.org';
  const children = ports.map((port) => {
    const data = mkdtempSync(join(tmpdir(), 'bench-front-node-'));
    const args = ['.bundle/last.mjs', 'serve', releases, '--port', String(port), '--data', data, '--host', host];
    return spawn('node', [...args, '--proxy', '--processes', '1'], {
      env: { ...process.env, NODE_ENV: 'production' },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
  });
  await Promise.all(children.map((child) => new Promise((resolve) => child.stdout.once('data', resolve))));
  const work = mkdtempSync(join(tmpdir(), 'bench-front-'));
  mkdirSync(join(work, 'cache'));
  const port = await getPort();
  const setup = { nodes: ports.map((one) => `127.0.0.1:${one}`), names: [host], port, tls: null };
  const config = frontConfig('nginx', { ...setup, cache: join(work, 'cache') });
  const nginx = spawn('/usr/sbin/nginx', nginxArgs(work, config), { stdio: 'ignore' });
  const agent = new Agent({ keepAlive: true, maxSockets: visitors });
  const ask = (path: string): Promise<Visited> =>
    new Promise((resolve, reject) => {
      const sent = request({ port, path, agent, headers: { Host: host } }, (answer) => {
        const parts: Buffer[] = [];
        answer.on('data', (part: Buffer) => parts.push(part)).on('error', reject);
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, text: Buffer.concat(parts).toString() }));
      });
      sent.on('error', reject).end();
    });
  for (let tries = 0; ; tries++) {
    const there = await ask('/').catch(() => null);
    if (there?.status === 200) break;
    if (tries > 200) throw new Error('Nothing answers behind nginx');
    await wait(50);
  }
  return {
    ask,
    end: () => {
      agent.destroy();
      for (const one of [nginx, ...children]) one.kill('SIGKILL');
    },
  };
}

/** Publishes a theme that wears a number in two pieces and a style sheet. */
async function publishTurn(server: Served, turn: number, hashes: Map<string, string | null>): Promise<void> {
  const send = async (method: string, path: string, body?: unknown): Promise<unknown> => {
    const answer = await fetch(`${server.at}/api/${path}`, {
      method,
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      headers: { ...server.headers, 'Content-Type': 'application/json' },
    });
    if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
    return answer.json();
  };
  const texts = {
    'pieces/stock.html': `<takes name="variant" type="Variant" required>\n<p data-turn="${turn}">x</p>\n`,
    'pieces/tags.html': `<takes name="tags" type="List of Tag" required>\n<p data-turn="${turn}">x</p>\n`,
    'assets/css/own.css': `:root { --turn: ${turn}; }\n`,
  };
  const files = Object.entries(texts).map(([path, text]) => ({ path, text, expected: hashes.get(path) ?? null }));
  const saved = (await send('PUT', 'drafts/spring/files', { files })) as { path: string; own: string | null }[];
  for (const { path, own } of saved) hashes.set(path, own);
  const looked = (await send('GET', 'compare?a=live&b=draft/spring')) as { revision: number; turn: number };
  await send('POST', 'drafts/spring/publish', { revision: looked.revision, turn: looked.turn });
}

/** Publishes and changed goods while visitors look, behind nginx: what they saw that was too old, or of two releases at once. */
export async function frontFigures({ asked, say, figure }: Report): Promise<void> {
  if (!asked('front.changes')) return;
  say(`${publishes} publishes and ${(publishes * changesEach).toLocaleString('en')} changed goods behind nginx`);
  const folder = seeded(1000);
  const shop = new Shop(folder);
  const known = [...new Feeds(shop.sql).figures()];
  shop.sql.db.close();
  const releases = mkdtempSync(join(tmpdir(), 'bench-front-releases-'));
  const server = await serve(folder, { LAST_RELEASES: releases });
  const own = known.filter((one) => one.product === 'deck-oil');
  const hashes = new Map<string, string | null>();
  const inForce: InForce[] = [];
  const priceOf = (turn: number) => 100_000 + turn * 7;
  const printed = (turn: number) => (priceOf(turn) / 100).toLocaleString('en-GB', { minimumFractionDigits: 2 });
  const change = async (turn: number): Promise<void> => {
    const some = known.slice((turn * changesEach) % 1000, ((turn * changesEach) % 1000) + changesEach - own.length);
    const lines = [
      ...some.map(({ sku }) => ({ sku, stock: turn })),
      ...own.map(({ sku }) => ({ sku, price: priceOf(turn), wasPrice: null })),
    ];
    const body = lines.map((line) => JSON.stringify(line)).join('\n');
    const answer = await fetch(`${server.at}/api/feed`, { method: 'POST', headers: server.headers, body });
    if (!answer.ok) throw new Error(await answer.text());
  };
  await change(0);
  await publishTurn(server, 0, hashes);
  await wait(5000);
  const front = await behindNginx(releases);
  inForce.push({ at: Date.now(), turn: 0, price: printed(0) });
  const seen = { asked: 0, failed: 0, stale: 0, mixed: 0, oldest: 0 };
  let isOver = false;
  const visit = async (): Promise<void> => {
    while (!isOver) {
      const sentAt = Date.now();
      const { status, text } = await front.ask(product).catch(() => ({ status: 0, text: '' }));
      const marks = [...text.matchAll(/data-turn="(\d+)"/g)].map(([, turn]) => turn);
      const sheet = /href="(\/assets\/css\/own\.css\?v=[^"]+)"/.exec(text)?.[1] ?? '/none';
      const css = await front.ask(sheet).catch(() => ({ status: 0, text: '' }));
      marks.push(/--turn: (\d+)/.exec(css.text)?.[1] ?? 'none');
      seen.asked += 2;
      if (status !== 200 || css.status !== 200) {
        seen.failed++;
        await wait(restMs);
        continue;
      }
      if (new Set(marks).size !== 1 || marks.length !== 3) seen.mixed++;
      // Both are followed: the release by its number, the goods by the price.
      const ages = [
        inForce.find(({ turn }) => turn > Number(marks[0]))?.at,
        inForce[inForce.findLastIndex(({ price }) => text.includes(price)) + 1]?.at,
      ].map((at) => (at === undefined ? 0 : sentAt - at));
      const age = Math.max(...ages);
      seen.oldest = Math.max(seen.oldest, age);
      if (age > graceMs) seen.stale++;
      await wait(restMs);
    }
  };
  const all = Array.from({ length: visitors }, visit);
  const began = performance.now();
  try {
    for (let turn = 1; turn <= publishes; turn++) {
      await publishTurn(server, turn, hashes);
      await change(turn);
      inForce.push({ at: Date.now(), turn, price: printed(turn) });
      await wait(Math.max(0, began + turn * turnMs - performance.now()));
    }
    await wait(graceMs + 1000);
  } finally {
    isOver = true;
    await Promise.all(all);
    front.end();
    server.end();
  }
  figure(
    'front.changes',
    seen.failed + seen.stale + seen.mixed,
    '',
    `none: ${seen.asked} requests of ${visitors} visitors in ${((performance.now() - began) / 1000).toFixed(0)} s, ${seen.failed} failed, ${seen.stale} stale after two seconds (the oldest was ${seen.oldest} ms old), ${seen.mixed} of two releases`,
  );
}

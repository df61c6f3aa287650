import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { seeded } from '@/core/language/testing/seeded';
import type { FeedAnswer } from '@/contract/feed';
import { Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { programOf } from '@/server/testing/program';
import { databaseFile, faultOf, Feeds, OrderEvents, OrderHolds, Orders } from '@/store';
import { newSecret, OrderSender, StandIn } from '.';

/** A hundred take five minutes: `LAST_WHOLE=1`. */
const rounds = process.env.LAST_WHOLE === '1' ? 100 : 4;
let program: Awaited<ReturnType<typeof programOf>>;
const folder = mkdtempSync(join(tmpdir(), 'orders-killed-'));
const fed = 5000;
let skus: string[];
/** What customers order: its price stays, or they would have to look again and again. */
let ordered: Set<string>;
let receiver: StandIn;
beforeAll(async () => {
  program = await programOf('src/server/orders/testing/taking.ts');
  const shop = demoShop([], 'themes/withy-quay', new Shop(folder));
  const secret = newSecret();
  receiver = await StandIn.open({ secret, port: 0, refuse: 3 });
  new OrderEvents(shop.sql).setReceiver({ url: receiver.url, secret });
  new OrderHolds(shop.sql).setRule('taken');
  const figures = [...new Feeds(shop.sql).figures()];
  skus = figures.map(({ sku }) => sku);
  ordered = new Set(figures.filter(({ product }) => product === 'deck-oil').map(({ sku }) => sku));
  shop.sql.db.close();
});
afterAll(() => {
  receiver.server.close();
  program.remove();
});

const { random } = seeded(23);

interface Answer {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  text: string;
}

/** Asks by the shop's own name, with a customer's cookie. */
function ask(
  port: number,
  path: string,
  { body, cookie = '' }: { body?: string; cookie?: string } = {},
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const host = `shop.localhost:${port}`;
    const sent = request(
      {
        ...{ host: '127.0.0.1', port, path, method: body === undefined ? 'GET' : 'POST', agent: false },
        headers: {
          Host: host,
          Origin: `http://${host}`,
          'Content-Type': 'application/x-www-form-urlencoded',
          ...(cookie ? { Cookie: cookie } : {}),
        },
      },
      (answer) => {
        let text = '';
        answer.on('data', (part: Buffer) => (text += part.toString()));
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, text }));
        answer.on('error', reject);
      },
    );
    sent.on('error', reject);
    sent.end(body);
  });
}

/** What was answered, over all rounds. */
const known = { price: 1000, sent: 1000, orders: [] as number[], customers: 0 };

/** Sends prices, one price for all variants at a time. */
async function feedOn(port: number): Promise<never> {
  for (;;) {
    const price = ++known.sent;
    const body = skus
      .map((sku) => JSON.stringify(ordered.has(sku) ? { sku, stock: fed } : { sku, price, stock: fed }))
      .join('\n');
    const answer = await fetch(`http://127.0.0.1:${port}/api/feed`, {
      ...{ method: 'POST', body },
      headers: { 'Idempotency-Key': `price ${price}` },
    });
    const { refusedCount } = (await answer.json()) as FeedAnswer;
    expect([answer.status, refusedCount]).toEqual([200, 0]);
    known.price = price;
  }
}

/** Orders, one customer after another. */
async function orderOn(port: number): Promise<never> {
  for (;;) {
    const email = `customer-${++known.customers}@boat.example`;
    const put = await ask(port, '/cart', { body: 'do=add&product=deck-oil&quantity=1' });
    const cookie = String(put.headers['set-cookie']).split(';')[0] ?? '';
    // What is ordered may have changed since it was looked at.
    for (let tries = 0; ; tries++) {
      const cart = await ask(port, '/cart', { cookie });
      const seen = /name="seen" value="([^"]*)"/.exec(cart.text)?.[1] ?? '';
      const body = new URLSearchParams({ do: 'order', email, seen }).toString();
      const answer = await ask(port, '/cart', { cookie, body });
      const number = /ordered=(\d+)/.exec(String(answer.headers.location))?.[1];
      if (number) {
        known.orders.push(Number(number));
        break;
      }
      if (tries > 200) throw new Error(`Nothing was ordered: ${answer.status} ${answer.text.slice(0, 2000)}`);
    }
  }
}

/** Works on a process that is killed within so many milliseconds: of its start, or of the first order that it takes. */
async function round(withinMs: number, fromOrder: boolean): Promise<void> {
  const child: ChildProcess = spawn('node', [program.file, folder], { stdio: ['ignore', 'pipe', 'inherit'] });
  const ended = new Promise<string | null>((resolve) => child.once('exit', (_, signal) => resolve(signal)));
  const port = await new Promise<number>((resolve) =>
    child.stdout?.once('data', (text: Buffer) => resolve(Number(text.toString()))),
  );
  const working = [feedOn(port), orderOn(port)].map((one) => one.catch((error: Error) => error));
  const before = known.orders.length;
  if (fromOrder) await vi.waitUntil(() => known.orders.length > before, { timeout: 30_000 });
  setTimeout(() => child.kill('SIGKILL'), random(withinMs));
  expect(await ended).toBe('SIGKILL');
  // They end because nobody answers any more, and for no other reason.
  for (const error of await Promise.all(working))
    expect(`${(error as NodeJS.ErrnoException).code} ${error.message}`).toMatch(
      /ECONNRESET|ECONNREFUSED|fetch failed|terminated|socket hang up/,
    );
}

it(
  'a feed, orders and their delivery are killed at any moment: nothing is lost, nothing comes twice without its id',
  async () => {
    for (let at = 0; at < rounds; at++) {
      await round(2000, at % 2 === 0);
      expect(faultOf(databaseFile(folder))).toBeNull();
    }
    const shop = new Shop(folder);
    // What was answered is there; of what was not nobody knows, and it may be there in part.
    const figures = [...new Feeds(shop.sql).figures()];
    for (const { price } of figures.filter(({ sku }) => !ordered.has(sku)))
      expect([price >= known.price, price <= known.sent, known.price > 1000]).toEqual([true, true, true]);
    // Each customer ordered once at the most, and whoever was answered did.
    const orders = new Orders(shop.sql).list({}, null, 100_000);
    const numbers = orders.map(({ number }) => number);
    expect(known.orders.length).toBeGreaterThanOrEqual(rounds / 2);
    expect(numbers).toEqual(expect.arrayContaining(known.orders));
    expect(new Set(orders.map(({ email }) => email)).size).toBe(orders.length);
    // What is held is off the stock that was fed, once.
    const oil = figures.filter(({ product }) => product === 'deck-oil');
    expect(new Set(figures.map(({ stock }) => stock))).toEqual(new Set([fed]));
    const held = new OrderHolds(shop.sql).of(oil.map(({ sku }) => sku));
    expect([...held.values()].reduce((sum, one) => sum + one, 0)).toBe(orders.length);
    // All of it arrives, each under one id.
    const later = () => new Date(Date.now() + 86_400_000);
    const sender = new OrderSender(shop.sql, later);
    for (let tries = 0; new OrderEvents(shop.sql).due(later().toISOString(), 1).length && tries < 100; tries++)
      await sender.round();
    const heard = [...receiver.heard.values()];
    expect(heard.map(({ order: { number } }) => number).sort((a, b) => a - b)).toEqual(
      [...numbers].sort((a, b) => a - b),
    );
    expect(new Set(heard.map(({ id }) => id)).size).toBe(orders.length);
    shop.sql.db.close();
  },
  rounds * 40_000,
);

import { mkdtempSync } from 'node:fs';
import { createServer, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Addresses, setupFrom } from '@/server/http';
import { pack, Shop } from '@/server/shop';
import { siteListener } from '@/server/storefront';
import { demoShop } from '@/server/testing/demo-shop';
import { Carts } from '@/store';
import { Origin } from './origin';
import { type Node, serveRelease } from './serve';

const newFolder = () => mkdtempSync(join(tmpdir(), 'origin-'));
const name = 'withy.example';
const folder = newFolder();
let shop: Shop;
let workbench: Server;
let nodes: Node[];

/** The workbench’s shop, at a port of its own. */
function open(port: number): Promise<Server> {
  const env = { LAST_BIND: '127.0.0.1', LAST_HOST: 'work.example', LAST_SHOP_HOST: name };
  const addresses = new Addresses(setupFrom(env, { port: 1, sitePort: port, draftPort: port }));
  const server = createServer(siteListener(() => shop, addresses));
  return new Promise((resolve) => server.listen(port, '127.0.0.1', () => resolve(server)));
}
const portOf = (server: Server): number => (server.address() as AddressInfo).port;

beforeAll(async () => {
  shop = demoShop([], 'themes/withy-quay', new Shop(folder));
  const { file } = pack(folder, 'live', newFolder());
  workbench = await open(0);
  const origin = `http://127.0.0.1:${portOf(workbench)}`;
  const setup = () => ({ file, folder: newFolder(), port: 0, bind: '127.0.0.1', hosts: name, proxy: false, origin });
  nodes = [await serveRelease(setup()), await serveRelease(setup())];
});
afterAll(async () => {
  await Promise.all(nodes.map((one) => one.close()));
  workbench.closeAllConnections();
  workbench.close();
});

interface Answer {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  text: string;
}
/** Asks one of the nodes as a browser does that knows the shop by its name. */
function ask(at: number, path: string, { body = '', cookie = '', host = name } = {}): Promise<Answer> {
  const port = nodes[at]?.port ?? 0;
  const headers = {
    ...{ Host: `${host}:${port}`, ...(cookie ? { Cookie: cookie } : {}) },
    ...(body ? { Origin: `http://${host}:${port}`, 'Content-Type': 'application/x-www-form-urlencoded' } : {}),
  };
  return new Promise((resolve, reject) => {
    const sent = request({ port, path, method: body ? 'POST' : 'GET', headers }, (answer) => {
      let text = '';
      answer.setEncoding('utf8').on('data', (part: string) => (text += part));
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, text }));
    });
    sent.on('error', reject).end(body);
  });
}

/** What a form of a page sends with one of its buttons. */
function filled(text: string, action: string): string {
  const forms = text.match(/<form[^>]*action="\/cart"[\s\S]*?<\/form>/g) ?? [];
  const form = forms.find((one) => one.includes(`value="${action}"`)) ?? forms[0] ?? '';
  const fields = new URLSearchParams({ do: action });
  for (const [, of = '', value = ''] of form.matchAll(/<input[^>]*\bname="(\w+)"[^>]*\bvalue="([^"]*)"/g))
    fields.set(of, value);
  return fields.toString();
}

/** Puts something into a cart as its form on the page does; gives the cart’s cookie. */
async function putInCart(at: number): Promise<string> {
  const { text } = await ask(at, '/product/deck-oil');
  const sent = await ask(at, '/cart', { body: filled(text, 'add') });
  expect([sent.status, sent.headers.location]).toEqual([303, '/cart?did=added']);
  return String(sent.headers['set-cookie']).split(';')[0] ?? '';
}

describe('nodes that leave carts to the workbench', () => {
  it('show a cart by whichever of them, and its orders lie at the workbench', async () => {
    const cookie = await putInCart(0);
    for (const at of [0, 1]) {
      expect((await ask(at, '/cart', { cookie })).text).toContain('Deck oil');
      const page = await ask(at, '/product/deck-oil', { cookie });
      expect([page.status, page.headers['cache-control']]).toEqual([200, 'private, no-cache']);
    }
    expect((await ask(1, '/product/deck-oil')).headers['cache-control']).toContain('s-maxage');
    const form = new URLSearchParams(filled((await ask(1, '/cart', { cookie })).text, 'order'));
    form.set('email', 'kim@withy.example');
    const ordered = await ask(1, '/cart', { cookie, body: form.toString() });
    expect(ordered.status).toBe(303);
    const number = Number(/ordered=(\d+)/.exec(String(ordered.headers.location))?.[1]);
    const order = new Carts(shop.sql).ordered(cookie.slice(cookie.indexOf('=') + 1), number);
    expect(order?.body.lines.map(({ product }) => product)).toEqual(['deck-oil']);
  });

  it('refuse what is not the shop’s before it reaches the workbench', async () => {
    for (const host of ['spring.localhost', 'other.example', 'work.example'])
      expect((await ask(0, '/cart', { host, body: 'do=add' })).status).toBe(421);
    expect((await ask(0, '/category/lamps', { body: 'do=add' })).status).toBe(405);
  });

  it('show all but the cart while the workbench is stopped, and the cart again afterwards', async () => {
    const cookie = await putInCart(0);
    const port = portOf(workbench);
    workbench.closeAllConnections();
    await new Promise((resolve) => workbench.close(resolve));
    const page = await ask(0, '/product/deck-oil', { cookie });
    expect([page.status, page.text.includes('Deck oil')]).toEqual([200, true]);
    for (const body of ['', 'do=order']) {
      const refused = await ask(1, '/cart', { cookie, body });
      expect([refused.status, refused.headers['retry-after'], refused.headers['cache-control']]).toEqual([
        ...[503, '5', 'no-store'],
      ]);
    }
    workbench = await open(port);
    expect((await ask(1, '/cart', { cookie })).text).toContain('Deck oil');
  });

  it.each(['10.0.0.2:4171', 'ftp://10.0.0.2', 'http://10.0.0.2/shop', ''])('refuse “%s” as an address', (text) => {
    expect(() => new Origin(text)).toThrow('is no address of a workbench’s shop');
  });
});

import { createServer, request, type IncomingHttpHeaders } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Shop } from '@/server/shop/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { Addresses, setAddresses, setupFrom } from '@/server/http/addresses';
import { siteListener } from './site';

interface Answer {
  status: number;
  headers: IncomingHttpHeaders;
  text: string;
}

let shop: Shop;
let port = 0;
let server: ReturnType<typeof createServer>;
beforeAll(async () => {
  shop = demoShop();
  server = createServer((asked, response) => listener(asked, response));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  port = (server.address() as AddressInfo).port;
  const addresses = new Addresses(setupFrom({}, { port: 4170, sitePort: port, draftPort: 4172 }));
  setAddresses(addresses);
  const listener = siteListener(() => shop, addresses);
});
afterAll(() => server.close());

/** Asks by a host's name on this machine, as a browser that knows it would. */
function ask(
  name: string,
  path: string,
  {
    method = 'GET',
    headers = {},
    body = '',
  }: { method?: string; headers?: Record<string, string>; body?: string } = {},
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const asked = request(
      { port, host: '127.0.0.1', path, method, headers: { Host: `${name}:${port}`, ...headers } },
      (answer) => {
        let text = '';
        answer.setEncoding('utf8').on('data', (part: string) => (text += part));
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, text }));
      },
    );
    asked.on('error', reject).end(body);
  });
}

describe('every kind of address carries what keeps its reader safe', () => {
  const shopHost = 'shop.localhost';
  const policies = {
    page: "frame-ancestors 'none'; base-uri 'self'; object-src 'none'",
    draft: "frame-ancestors http://127.0.0.1:4170 http://localhost:4170; base-uri 'self'; object-src 'none'",
    fragment: "frame-ancestors 'none'; sandbox",
    document: "default-src 'none'; style-src 'unsafe-inline'; sandbox",
    plain: "default-src 'none'; frame-ancestors 'none'; sandbox",
    none: undefined,
  };
  const table: [host: string, path: string, status: number, type: string, policy: keyof typeof policies][] = [
    [shopHost, '/', 200, 'text/html', 'page'],
    [shopHost, '/product/deck-oil', 200, 'text/html', 'page'],
    [shopHost, '/fr/category/rope-and-cord', 200, 'text/html', 'page'],
    [shopHost, '/listing/search?q=rope', 200, 'text/html', 'page'],
    [shopHost, '/cart', 200, 'text/html', 'page'],
    [shopHost, '/none', 404, 'text/html', 'page'],
    [shopHost, '/%E0%A4%A', 404, 'text/html', 'page'],
    [shopHost, '/assets/css/shop.css', 200, 'text/css', 'none'],
    [shopHost, '/assets/icons.svg', 200, 'image/svg+xml', 'document'],
    [shopHost, '/assets/none.js', 404, 'text/plain', 'none'],
    [shopHost, '/fragment/pieces/suggestions?q=rope', 200, 'text/html', 'fragment'],
    [shopHost, '/fragment/pieces/none', 404, 'text/plain', 'none'],
    [shopHost, '/media/deck-oil-plain.svg', 200, 'image/svg+xml', 'document'],
    [shopHost, '/media/none.svg', 404, 'image/svg+xml', 'document'],
    [shopHost, '/player/anchor', 200, 'text/html', 'document'],
    [shopHost, '/robots.txt', 200, 'text/plain', 'none'],
    [shopHost, '/sitemap.xml', 200, 'application/xml', 'none'],
    ['spring.localhost', '/', 200, 'text/html', 'draft'],
    ['spring.localhost', '/cart', 200, 'text/html', 'draft'],
    ['spring.localhost', '/picture/pieces/tile?of=/product/deck-oil', 200, 'text/html', 'draft'],
    ['release--1.localhost', '/product/deck-oil', 200, 'text/html', 'page'],
    ['autumn.localhost', '/', 404, 'text/plain', 'plain'],
    ['release--9.localhost', '/', 404, 'text/plain', 'plain'],
    ['evil.example', '/', 421, 'text/plain', 'plain'],
  ];
  for (const [host, path, status, type, policy] of table)
    it(`${host}${path}`, async () => {
      const { headers, ...answer } = await ask(host, path);
      expect([
        answer.status,
        headers['content-type']?.split(';')[0],
        headers['content-security-policy'],
        headers['x-content-type-options'],
        headers['access-control-allow-origin'],
        headers['x-powered-by'],
      ]).toEqual([status, type, policies[policy], 'nosniff', undefined, undefined]);
    });
  it('pages of the shop say no more than that to others, and use nothing of the device', async () => {
    const { headers } = await ask('shop.localhost', '/');
    expect([headers['referrer-policy'], headers['x-frame-options'], headers['cross-origin-opener-policy']]).toEqual([
      'strict-origin-when-cross-origin',
      'DENY',
      'same-origin-allow-popups',
    ]);
    expect(headers['permissions-policy']).toContain('camera=()');
  });
});

describe('the shop by its own name', () => {
  it('sends a page that is kept like one that is made, to those who have it nothing', async () => {
    const path = '/product/tarred-hemp-rope?kept';
    const [made, kept] = [await ask('shop.localhost', path), await ask('shop.localhost', path)];
    const plain = ({ headers: { date: _, ...rest }, ...answer }: Answer) => ({ ...answer, headers: rest });
    expect(plain(kept)).toEqual(plain(made));
    const { etag = '' } = made.headers;
    const known = await ask('shop.localhost', path, { headers: { 'If-None-Match': etag } });
    expect([known.status, known.text, known.headers.etag]).toEqual([304, '', etag]);
    const head = await ask('shop.localhost', path, { method: 'HEAD' });
    expect([head.status, head.text, head.headers['content-length']]).toEqual([200, '', made.headers['content-length']]);
    expect((await ask('shop.localhost', '/none', { method: 'HEAD' })).text).toBe('');
  });
  it('sends a cached page after one query, whoever asks', async () => {
    const path = '/product/tarred-hemp-rope?kept';
    const visitors: Record<string, string>[] = [{}, { Cookie: 'last_cart=AAAAAAAAAAAAAAAAAAAAAA' }];
    for (const headers of visitors) {
      await ask('shop.localhost', path, { headers });
      shop.sql.count = 0;
      expect((await ask('shop.localhost', path, { headers })).status).toBe(200);
      expect(shop.sql.count).toBe(1);
    }
  });
  it('is where this machine’s plain names lead', async () => {
    for (const name of ['127.0.0.1', 'localhost']) {
      const { status, headers } = await ask(name, '/product/deck-oil?variant=1');
      expect([status, headers.location]).toEqual([308, `http://shop.localhost:${port}/product/deck-oil?variant=1`]);
    }
  });
  it('links within its own origin', async () => {
    const { text } = await ask('shop.localhost', '/');
    expect(text).not.toMatch(/(?:href|src|action)="\/(?:live|draft)\//);
    expect(text).toContain('href="/category/rope-and-cord"');
  });
  it('takes a form with its cookie, and remembers it by that', async () => {
    const form = { method: 'POST', headers: { 'Content-Type': 'application/x-www-form-urlencoded' } };
    const body = 'do=add&product=deck-oil&quantity=2';
    const { status, headers } = await ask('shop.localhost', '/cart', { ...form, body });
    const [cookie = ''] = headers['set-cookie'] ?? [];
    expect([status, headers.location]).toEqual([303, '/cart?did=added']);
    expect(cookie).toMatch(/^last_cart=[\w-]{22}; /);
    expect(cookie.split('; ').slice(1).sort()).toEqual(['HttpOnly', 'Max-Age=5184000', 'Path=/', 'SameSite=Lax']);
    const with2 = { headers: { Cookie: cookie.split(';')[0] as string } };
    for (const _ of [1, 2]) expect((await ask('shop.localhost', '/', with2)).text).toContain('</span>2<span');
    // In a draft it is another's, and lives in the workbench's frame.
    const there = await ask('spring.localhost', '/cart', {
      ...form,
      headers: { ...form.headers, 'Sec-Fetch-Dest': 'iframe' },
      body,
    });
    expect(there.headers['set-cookie']?.[0]?.split('; ').slice(-3).sort()).toEqual([
      'Partitioned',
      'SameSite=None',
      'Secure',
    ]);
  });
});

describe('what is sent to do harm is refused, and the server goes on', () => {
  const table: [name: string, path: string, options: Parameters<typeof ask>[2], status: number][] = [
    ['a cookie of 8 kB', '/', { headers: { Cookie: `x=${'y'.repeat(8000)}` } }, 200],
    ['a header of 100 kB', '/', { headers: { 'X-Long': 'y'.repeat(100_000) } }, 431],
    ['a query of 3 kB', `/?q=${'y'.repeat(3000)}`, {}, 414],
    ['a path of dots', '/assets/../../etc/passwd', {}, 404],
    ['a path of written dots', '/assets/%2e%2e/%2e%2e/about.json', {}, 404],
    ['a path with a zero byte', '/assets/css/shop.css%00.js', {}, 404],
    ['a path of two slashes', '//evil.example/', {}, 404],
    ['a backslash', '/media/..%5C..%5Clast.sqlite', {}, 404],
    ['a picture’s path that cannot be read', '/media/%E0%A4%A', {}, 404],
    ['a form to a page', '/product/deck-oil', { method: 'POST' }, 405],
    ['a form too long', '/cart', { method: 'POST', body: `do=${'x'.repeat(200_000)}` }, 413],
    ['a length that is a lie', '/cart', { method: 'POST', headers: { 'Content-Length': '900000' }, body: '' }, 413],
    ['a form of another site', '/cart', { method: 'POST', headers: { Origin: 'http://evil.example' } }, 403],
    ['DELETE', '/cart', { method: 'DELETE' }, 405],
    ['a service worker', '/assets/js/shop.js', { headers: { 'Service-Worker': 'script' } }, 403],
  ];
  for (const [name, path, options, status] of table)
    it(name, async () => {
      expect((await ask('shop.localhost', path, options)).status).toBe(status);
      expect((await ask('shop.localhost', '/content/delivery')).status).toBe(200);
    });
  /** Sends bytes as they are, and gives the first line of what comes back. */
  const raw = (text: string): Promise<string> =>
    new Promise((resolve) => {
      let read = '';
      const socket = connect(port, '127.0.0.1', () => socket.write(text));
      socket.on('data', (part) => (read += part.toString()));
      socket.on('close', () => resolve(read.split('\r\n')[0] ?? '')).on('error', () => resolve(''));
    });
  it('two hosts', async () => {
    const two = `GET / HTTP/1.1\r\nHost: shop.localhost:${port}\r\nHost: evil.example\r\nConnection: close\r\n\r\n`;
    expect(await raw(two)).toBe('HTTP/1.1 400 Bad Request');
  });
  it('no host', async () => {
    expect(await raw('GET / HTTP/1.1\r\nConnection: close\r\n\r\n')).toBe('HTTP/1.1 400 Bad Request');
  });
  it('a form without end: it is refused long before, and the line is cut', async () => {
    let sent = 0;
    const status = await new Promise<string>((resolve) => {
      const socket = connect(port, '127.0.0.1');
      let read = '';
      socket.write(
        `POST /cart HTTP/1.1\r\nHost: shop.localhost:${port}\r\nContent-Type: application/x-www-form-urlencoded\r\nTransfer-Encoding: chunked\r\n\r\n`,
      );
      const more = () => {
        while (!socket.destroyed && socket.write(`4000\r\n${'x'.repeat(0x4000)}\r\n`)) sent += 0x4000;
        socket.once('drain', more);
      };
      socket.on('data', (part: Buffer) => (read += part.toString()));
      socket.on('close', () => resolve(read.split('\r\n')[0] ?? '')).on('error', () => {});
      more();
    });
    expect([status, sent < 20_000_000]).toEqual(['HTTP/1.1 413 Payload Too Large', true]);
  });
  it('what is not a request', async () => {
    expect(await raw('hello\r\n\r\n')).toBe('HTTP/1.1 400 Bad Request');
  });
});

import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, truncateSync, utimesSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { saveFiles } from '@/server/drafts';
import { pack, Shop, stateOf } from '@/server/shop';
import { pageOf } from '@/server/storefront';
import { demoShop } from '@/server/testing/demo-shop';
import { type Node, serveRelease } from './serve';

const newFolder = () => mkdtempSync(join(tmpdir(), 'node-'));
const folder = newFolder();
let shop: Shop;
let file: string;
let node: Node;
const setup = (more: object) => ({
  ...{ file, folder: newFolder(), port: 0, bind: '127.0.0.1', hosts: 'withy.example', proxy: false },
  ...more,
});
beforeAll(async () => {
  shop = demoShop([], 'themes/withy-quay', new Shop(folder));
  ({ file } = pack(folder, 'live', newFolder()));
  node = await serveRelease(setup({}));
});
afterAll(() => node.close());

interface Answer {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  text: string;
}
/** Asks a node as a browser would that knows the shop by its name. */
function ask(
  path: string,
  { method = 'GET', body = '', headers = {}, host = 'withy.example', of = node } = {},
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const asked = request(
      { port: of.port, path, method, headers: { Host: `${host}:${of.port}`, ...headers } },
      (answer) => {
        let text = '';
        answer.setEncoding('utf8').on('data', (part: string) => (text += part));
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, text }));
      },
    );
    asked.on('error', reject).end(body);
  });
}
const hashOf = (path: string): string => createHash('sha256').update(readFileSync(path)).digest('hex');

describe('a render node', () => {
  it('answers with the pages of the shop, by its name and by this machine’s own', async () => {
    for (const path of [
      '/',
      '/category/lamps',
      '/product/deck-oil',
      '/fr/product/deck-oil',
      '/listing/search?q=rope',
      '/content/care',
    ]) {
      const url = new URL(path, 'http://x');
      const query = Object.fromEntries(url.searchParams);
      const origin = `http://withy.example:${node.port}`;
      const made = pageOf(shop, stateOf(shop, 'live'), { path: url.pathname, query, origin, cart: { lines: [] } });
      const { status, text, headers } = await ask(path);
      expect([path, status, text === made.html]).toEqual([path, 200, true]);
      expect(headers.etag).toMatch(/^"/);
      const again = await ask(path, { headers: { 'If-None-Match': String(headers.etag) } });
      expect([again.status, again.text]).toEqual([304, '']);
    }
    expect((await ask('/', { host: '127.0.0.1' })).status).toBe(200);
    expect((await ask('/', { host: 'other.example' })).status).toBe(421);
    expect((await ask('/nothing/here')).status).toBe(404);
    for (const path of ['/healthz', '/readyz'])
      expect([path, (await ask(path, { host: 'monitor.example' })).text]).toEqual([path, 'ok\n']);
    expect((await ask('/', { method: 'HEAD' })).text).toBe('');
  });

  it('reads nothing for a page that is kept', async () => {
    await ask('/product/deck-oil');
    const { count } = node.shop().sql;
    expect((await ask('/product/deck-oil')).status).toBe(200);
    expect(node.shop().sql.count).toBe(count);
  });

  it('has pictures, in sizes too, style sheets, the map, and neither drafts nor releases nor a workbench', async () => {
    const page = (await ask('/product/deck-oil')).text.replaceAll('&amp;', '&');
    const picture = await ask(/\/media\/[^" ]+/.exec(page)?.[0] ?? '');
    expect([picture.status, String(picture.headers['content-type']).split('/')[0]]).toEqual([200, 'image']);
    const sheet = /\/assets\/[^"]+\.css\?v=\w+/.exec(page)?.[0] ?? '';
    expect((await ask(sheet)).headers['content-type']).toMatch(/^text\/css/);
    expect((await ask('/sitemap.xml')).text).toContain(`http://withy.example:${node.port}/`);
    for (const path of ['/bench', '/api/drafts', '/draft/spring/', '/release/1/'])
      expect([path, (await ask(path)).status]).toEqual([path, 404]);
    expect((await ask('/', { host: 'spring.localhost' })).status).toBe(421);
  });

  /** Puts something into a cart, as its form on the page does; gives the cart's cookie. */
  const putInCart = async (of: Node): Promise<string> => {
    const form =
      /<form[^>]*action="\/cart"[\s\S]*?<\/form>/.exec((await ask('/product/deck-oil', { of })).text)?.[0] ?? '';
    const fields = new URLSearchParams({ do: 'add' });
    for (const [, name = '', value = ''] of form.matchAll(/<input[^>]*\bname="(\w+)"[^>]*\bvalue="([^"]*)"/g))
      fields.set(name, value);
    const headers = {
      'Content-Type': 'application/x-www-form-urlencoded',
      Origin: `http://withy.example:${of.port}`,
    };
    const sent = await ask('/cart', { of, method: 'POST', body: fields.toString(), headers });
    expect(sent.status).toBe(303);
    return String(sent.headers['set-cookie']).split(';')[0] ?? '';
  };

  it('keeps carts of its own, and leaves the release file as it is', async () => {
    const before = hashOf(file);
    const cookie = await putInCart(node);
    expect((await ask('/cart', { headers: { Cookie: cookie } })).text).toContain('Deck oil');
    expect((await ask('/cart')).text).not.toContain('Deck oil');
    expect(hashOf(file)).toBe(before);
  });

  it('finds its carts again after it was stopped, and with another release', async () => {
    const own = newFolder();
    const first = await serveRelease(setup({ folder: own }));
    const cookie = await putInCart(first);
    await first.close();
    const other = pack(folder, 'draft/spring', newFolder()).file;
    const second = await serveRelease(setup({ folder: own, file: other }));
    expect((await ask('/cart', { of: second, headers: { Cookie: cookie } })).text).toContain('Deck oil');
    await second.close();
  });

  it('finishes what was begun when it is told to end', async () => {
    const one = await serveRelease(setup({}));
    const body = 'do=order';
    const headers = {
      ...{ Host: `withy.example:${one.port}`, Origin: `http://withy.example:${one.port}` },
      ...{ 'Content-Type': 'application/x-www-form-urlencoded', 'Content-Length': body.length },
    };
    const asked = request({ port: one.port, path: '/cart', method: 'POST', headers });
    const answered = new Promise<number>((resolve, reject) => {
      asked.on('error', reject).on('response', (answer) => resolve(answer.resume().statusCode ?? 0));
    });
    asked.write(body.slice(0, 3));
    await new Promise((resolve) => setTimeout(resolve, 100));
    const ended = one.close();
    await expect(ask('/', { of: one })).rejects.toThrow(/ECONNREFUSED/);
    asked.end(body.slice(3));
    expect(await answered).toBeLessThan(500);
    await ended;
  });

  it('goes over to a newer file in its folder between two requests, and keeps to the last that can be read', async () => {
    const releases = newFolder();
    pack(folder, 'live', releases);
    const said: string[] = [];
    const one = await serveRelease(setup({ file: releases, lookEvery: 20, say: (line: string) => said.push(line) }));
    const before = await ask('/product/deck-oil', { of: one });
    const sheet = /\/assets\/css\/own\.css\?v=\w+/.exec(before.text)?.[0] ?? '';
    // Another style sheet, another text on each page: one visitor sees one release or the other, whole.
    const draft = stateOf(shop, 'draft/spring');
    const own = shop.theme(draft).theme.layers.at(-1)?.files;
    const write = (path: string, text: string) => ({ path, text, expected: own?.get(path)?.hash ?? null });
    saveFiles(shop, draft, [
      write('assets/css/own.css', '.new { color: red }\n'),
      write('product/default.html', '<draw name="layouts/shop" title="New"><p class="new">New</p></draw>\n'),
    ]);
    const asking = new Set<Promise<Answer>>();
    const answers: Answer[] = [];
    const load = setInterval(() => {
      const asked = ask('/product/deck-oil', { of: one });
      asking.add(asked);
      void asked.then((answer) => answers.push(answer)).finally(() => asking.delete(asked));
    }, 15);
    const next = pack(folder, 'draft/spring', releases).file;
    utimesSync(next, new Date(), new Date(Date.now() + 5000));
    await expect.poll(() => one.file(), { timeout: 8000 }).toBe(next);
    await expect.poll(() => answers.some(({ text }) => text.includes('class="new"')), { timeout: 8000 }).toBe(true);
    clearInterval(load);
    await Promise.all(asking);
    expect(new Set(answers.map(({ status }) => status))).toEqual(new Set([200]));
    for (const { text } of answers) expect(text.includes('class="new"')).toBe(!text.includes(sheet));
    // A page that was sent before still finds its style sheet, and the new one has its own.
    expect((await ask(sheet, { of: one })).status).toBe(200);
    // Half a file, as one that is being copied under its own name.
    const half = join(releases, 'half.release');
    writeFileSync(half, readFileSync(next).subarray(0, 200_000));
    utimesSync(half, new Date(), new Date(Date.now() + 9000));
    await expect.poll(() => said.at(-1), { timeout: 8000 }).toMatch(/half\.release cannot be used: .*Still serving/);
    expect((await ask('/', { of: one })).status).toBe(200);
    // Copied to its end, it is served.
    writeFileSync(half, readFileSync(next));
    utimesSync(half, new Date(), new Date(Date.now() + 9500));
    await expect.poll(() => one.file(), { timeout: 8000 }).toBe(half);
    // One that is written while the clock is an hour behind is the newest all the same.
    utimesSync(half, new Date(), new Date(Date.now() + 3_600_000));
    const late = pack(folder, 'live', releases).file;
    await expect.poll(() => one.file(), { timeout: 8000 }).toBe(late);
    await one.close();
  });

  /** The status that a request gets which is written letter by letter; 0: the connection is closed without one. */
  const raw = (text: string): Promise<number> =>
    new Promise((resolve) => {
      const socket = connect(node.port, '127.0.0.1', () => socket.write(text));
      let answer = '';
      socket.setEncoding('latin1').on('data', (part: string) => {
        answer += part;
        if (answer.includes('\r\n')) socket.destroy();
      });
      socket.on('error', () => {});
      socket.on('close', () => resolve(Number(/^HTTP\/1\.1 (\d+)/.exec(answer)?.[1] ?? 0)));
    });
  const get = (path: string, ...lines: string[]) =>
    [`GET ${path} HTTP/1.1`, 'Host: withy.example', 'Connection: close', ...lines, '', ''].join('\r\n');

  it.each([
    ['no host', 'GET / HTTP/1.1\r\n\r\n', 400],
    ['two hosts', get('/', 'Host: other.example'), 400],
    ['another host in its address', get('http://other.example/'), 404],
    ['headers of 100 kB', get('/', `X-Long: ${'x'.repeat(100_000)}`), 431],
    ['an address of 100 kB', get(`/${'x'.repeat(100_000)}`), 431],
    ['no HTTP', 'hello\r\n\r\n', 400],
    ['another method', get('/').replace('GET', 'PUT'), 405],
    ['a way out of the site', get('/../../etc/passwd'), 404],
    ['the same, written otherwise', get('/assets/..%2f..%2fetc/passwd'), 404],
    ['letters that are none', get('/product/%zz'), 404],
    ['a zero', get('/product/a%00b'), 404],
    ['a cookie that is no cart’s', get('/', 'Cookie: last_cart=../../x; last_cart==;;'), 200],
    ['encodings that are none', get('/', 'Accept-Encoding: ;;q=x, , br;q='), 200],
    ['a range that is none', get('/robots.txt', 'Range: bytes=z-'), 200],
    ['an ETag that is none', get('/', 'If-None-Match: "'), 200],
    ['a body that says two lengths', get('/', 'Content-Length: 3', 'Content-Length: 4'), 400],
    ['a body in both ways', get('/', 'Content-Length: 3', 'Transfer-Encoding: chunked'), 400],
  ])('answers a request with %s, and goes on', async (_, text, status) => {
    expect(await raw(text)).toBe(status);
    expect((await ask('/')).status).toBe(200);
  });

  it('does not begin with a file that is not whole, nor in the data folder of a shop', async () => {
    const short = pack(folder, 'live', newFolder()).file;
    truncateSync(short, 100_000);
    await expect(serveRelease(setup({ file: short }))).rejects.toThrow(/cannot be used/);
    await expect(serveRelease(setup({ file: join(folder, 'none') }))).rejects.toThrow('there is no such file');
    await expect(serveRelease(setup({ folder }))).rejects.toThrow('is the data folder of a shop');
  });
});

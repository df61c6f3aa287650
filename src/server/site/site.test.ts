import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliDecompressSync, gunzipSync } from 'node:zlib';
import getPort from 'get-port';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addresses, safetyHeaders } from '@/server/http';
import { saveRecords } from '@/server/records';
import { pack, Shop, stateOf } from '@/server/shop';
import { fragmentOf } from '@/server/storefront';
import { demoShop } from '@/server/testing/demo-shop';
import { nginxArgs } from '@/server/testing/nginx';
import { RecordReader } from '@/store';
import { fileOf, foundIn, foundInSheet } from './addresses';
import { Made } from './made';
import { makeSite, type SiteMade } from './make';

const newFolder = () => mkdtempSync(join(tmpdir(), 'site-'));
const host = 'withy.example';
const folder = newFolder();
const out = newFolder();
let shop: Shop;
let first: SiteMade;
let port: number;
/** A site with suggestions, and where nginx serves it. */
let searched: { to: string; port: number };
const packed = () => pack(folder, 'live', newFolder()).file;
const make = (to = out) => makeSite({ file: packed(), out: to, host, node: null, port });

beforeAll(async () => {
  shop = demoShop([], 'themes/withy-quay', new Shop(folder));
  port = await getPort();
  first = await make();
});

/** Files below a folder, by their names, with what they hold. */
function filesOf(root: string, at = ''): Map<string, Buffer> {
  const files = new Map<string, Buffer>();
  for (const entry of readdirSync(join(root, at), { withFileTypes: true })) {
    const name = at ? `${at}/${entry.name}` : entry.name;
    if (entry.isDirectory()) for (const one of filesOf(root, name)) files.set(...one);
    else files.set(name, readFileSync(join(root, name)));
  }
  return files;
}

describe('addresses as files', () => {
  it.each([
    ['/', true, 'index.html'],
    ['/fr/', true, 'fr/index.html'],
    ['/category/rope', true, 'category/rope.html'],
    ['/category/rope?page=2', true, 'category/rope,page=2.html'],
    ['/media/lamp.jpg?v=1&w=80', false, 'media/lamp,v=1&w=80.jpg'],
    ['/media/a%20lamp.jpg', false, 'media/a lamp.jpg'],
    ['/assets/css/own.css?v=ab', false, 'assets/css/own,v=ab.css'],
    ['/../etc/passwd', true, null],
    ['/media/%2e%2e/secret.png', false, null],
    ['/media/%', false, null],
    [`/product/${'x'.repeat(300)}`, true, null],
  ])('%s', (address, isPage, name) => {
    expect(fileOf(address, isPage)).toBe(name);
  });

  it('are found in pages and style sheets', () => {
    const html = `<link href="/assets/a.css?v=1"><img src="/media/b.jpg?v=1&amp;w=8" srcset="/media/b.jpg?w=9 1x, /media/b.jpg?w=18 2x">
      <meta content="https://${host}/media/c.jpg?v=2"><a href="/category/rope?page=2">2</a><a href="?page=3&amp;sort=name">3</a><a href="/product/lamp?variant=L-1">1</a><p>/notes/media/d.jpg</p><form data-from="/fr/fragment/pieces/found"></form>`;
    expect(foundIn(html, `https://${host}`)).toEqual({
      files: [
        ...['/assets/a.css?v=1', '/media/b.jpg?v=1&w=8', '/media/b.jpg?w=9', '/media/b.jpg?w=18', '/media/c.jpg?v=2'],
        '/fr/fragment/pieces/found',
      ],
      pages: ['/category/rope?page=2', '/product/lamp?variant=L-1'],
    });
    const css = `@font-face { src: url(../fonts/a.woff2) } p { background: url("/media/b.jpg?v=1") } a { background: url(data:x) }`;
    expect(foundInSheet(css, '/assets/css/own.css?v=2')).toEqual(['/assets/fonts/a.woff2', '/media/b.jpg?v=1']);
  });
});

describe('the site of the demo', () => {
  it('has every page, each text also shorter, and nothing went wrong', () => {
    expect(first.faults).toEqual([]);
    expect(first.pages).toBeGreaterThan(200);
    const files = filesOf(join(out, 'public'));
    for (const name of [
      'index.html',
      'fr/index.html',
      'product/deck-oil.html',
      'sitemap.xml',
      'robots.txt',
      'not-found.html',
    ])
      expect([name, files.has(name)]).toEqual([name, true]);
    for (const [name, bytes] of files) {
      if (!/\.(?:gz|br)$/.test(name)) continue;
      const plain = name.endsWith('.gz') ? gunzipSync(bytes) : brotliDecompressSync(bytes);
      expect(plain.equals(files.get(name.slice(0, -3)) ?? Buffer.alloc(0))).toBe(true);
    }
    const page = String(files.get('product/deck-oil.html'));
    expect(page).toContain('Deck oil');
    expect(page).not.toMatch(/<form[^>]*action="[^"]*\/cart"/);
  });

  it('stays as it is where nothing changed, and is made again where a price did: as a site made from nothing is', async () => {
    const same = await make();
    expect([same.made, same.removed, same.pages]).toEqual([0, 0, first.pages]);
    const before = filesOf(join(out, 'public'));
    const was = new RecordReader(shop.catalogue()).read('product', ['deck-oil']).get('deck-oil') ?? {};
    const variants = (was.variants as object[]).map((one) => ({ ...one, price: 9900 }));
    const change = { kind: 'product', slug: 'deck-oil', before: was, after: { ...was, variants } } as const;
    saveRecords(shop, [change], { title: 'A price', at: '2026-11-30T10:00:00.000Z', by: 'Robin' });
    const again = await make();
    const after = filesOf(join(out, 'public'));
    const differ = [...after].filter(
      ([name, bytes]) => name.endsWith('.html') && !before.get(name)?.equals(bytes),
    ).length;
    expect(differ).toBeGreaterThan(2);
    expect(again.made).toBeLessThanOrEqual(2 * differ);
    const other = newFolder();
    await make(other);
    const fresh = filesOf(join(other, 'public'));
    expect([...after.keys()].sort()).toEqual([...fresh.keys()].sort());
    for (const [name, bytes] of fresh) expect([name, after.get(name)?.equals(bytes)]).toEqual([name, true]);
  });

  it('has what a search suggests for the first letters, as the shop answers it, made again where that changes', async () => {
    const node = '127.0.0.1:1';
    searched = { to: newFolder(), port: await getPort() };
    const { to } = searched;
    const setup = { out: to, host, node, port: searched.port };
    await makeSite({ ...setup, file: packed() });
    const found = () => [...filesOf(join(to, 'public'))].filter(([name]) => /\/suggestions,.*html$/.test(name));
    const before = found();
    expect(before.length).toBeGreaterThan(200);
    const state = stateOf(shop, 'live');
    for (const [name, bytes] of before) {
      const [, base = '', q = ''] = /^((?:fr\/)?fragment\/pieces\/suggestions),q=([\w%]+)\.html$/.exec(name) ?? [];
      const asked = fragmentOf(shop, state, {
        path: `/${base}`,
        query: { q: decodeURIComponent(q) },
        origin: `https://${host}`,
      });
      expect([name, bytes.toString()]).toEqual([name, asked?.html]);
      expect([name, asked?.html.includes('role="option"')]).toEqual([name, true]);
    }
    expect(before.some(([name]) => name.startsWith('fr/'))).toBe(true);
    const was = new RecordReader(shop.catalogue()).read('product', ['deck-oil']).get('deck-oil') ?? {};
    const variants = (was.variants as object[]).map((one) => ({ ...one, price: 7700 }));
    const change = { kind: 'product', slug: 'deck-oil', before: was, after: { ...was, variants } } as const;
    saveRecords(shop, [change], { title: 'A price', at: '2026-11-30T11:00:00.000Z', by: 'Robin' });
    const again = await makeSite({ ...setup, file: packed() });
    const after = new Map(found());
    const differ = before.filter(([name, bytes]) => !after.get(name)?.equals(bytes)).length;
    expect(differ).toBeGreaterThan(0);
    expect(differ).toBeLessThan(before.length / 4);
    expect(again.made).toBeLessThan(first.pages / 4);
    expect(String(after.get('fragment/pieces/suggestions,q=oil.html'))).toContain('£77');
  });

  it('is made again whole where what was kept of it cannot be read, or was for another setup', () => {
    const path = join(newFolder(), 'made.json');
    const made = new Made('one');
    const page = { from: 'tlook\x01a\0g\tshop\x01b', files: ['/assets/a.css'], pages: ['/?page=2'] };
    made.pages.set('/', page);
    made.pages.set('/other', { from: null, files: [], pages: [] });
    made.files = ['index.html'];
    made.write(path);
    expect([...Made.read(path, 'one').pages]).toEqual([...made.pages]);
    const other = Made.read(path, 'two');
    expect([other.pages.size, other.files]).toEqual([0, ['index.html']]);
    writeFileSync(path, readFileSync(path).subarray(0, 60));
    const broken = Made.read(path, 'one');
    expect([broken.pages.size, broken.files]).toEqual([0, []]);
  });
});

describe('nginx with no Node.js beside it', () => {
  const running: ChildProcess[] = [];
  /** Starts nginx with the configuration of a site. */
  const serve = (site: string): void => {
    const work = newFolder();
    mkdirSync(join(work, 'cache'));
    const args = nginxArgs(work, `include /etc/nginx/mime.types; include ${site}/site.conf;`);
    running.push(spawn('/usr/sbin/nginx', args, { stdio: ['ignore', 'ignore', 'inherit'] }));
  };
  beforeAll(() => serve(out));
  afterAll(async () => {
    for (const one of running) {
      one.kill('SIGTERM');
      await once(one, 'exit');
    }
  });
  const ask = (path: string, headers: Record<string, string> = {}, at = port) =>
    new Promise<{ status: number; headers: Record<string, unknown>; bytes: Buffer }>((resolve, reject) => {
      const sent = request({ port: at, path, headers: { Host: host, ...headers } }, (answer) => {
        const parts: Buffer[] = [];
        answer.on('data', (part: Buffer) => parts.push(part));
        answer.on('end', () =>
          resolve({ status: answer.statusCode ?? 0, headers: answer.headers, bytes: Buffer.concat(parts) }),
        );
      });
      sent.on('error', reject).end();
    });

  /** Resolves once nginx answers with what is there. */
  const served = (asked: () => ReturnType<typeof ask>) =>
    expect
      .poll(
        () =>
          asked().then(
            ({ status }) => status,
            () => 0,
          ),
        { timeout: 10_000 },
      )
      .toBe(200);

  it('serves every page and every file that they lead to', async () => {
    await served(() => ask('/'));
    const origin = `https://${host}`;
    const addresses = ['/'];
    const seen = new Set(addresses);
    const wrong: string[] = [];
    const types = new Map<string, number>();
    for (const address of addresses) {
      const { status, headers, bytes } = await ask(address);
      const type = String(headers['content-type']);
      types.set(type, (types.get(type) ?? 0) + 1);
      if (status !== 200) wrong.push(`${address}: ${status}`);
      if (!type.startsWith('text/html')) continue;
      const html = bytes.toString();
      const links = [...html.matchAll(/\s(?:href|src)="([^"]+)"/g)].map(([, link = '']) =>
        link.replaceAll('&amp;', '&'),
      );
      for (const link of [...links, ...foundIn(html, origin).files]) {
        const url = URL.canParse(link, origin + address) ? new URL(link, origin + address) : null;
        if (url?.origin !== origin || /\/(?:cart|listing\/search)$/.test(url.pathname)) continue;
        // Orders and filters, of which there are any number, all are the list as it is.
        if (url.search && !/^\?(?:page|variant)=[^&]+$/.test(url.search) && !/^\/(?:assets|media)\//.test(url.pathname))
          url.search = '';
        const to = url.pathname + url.search;
        if (!seen.has(to)) addresses.push(to);
        seen.add(to);
      }
    }
    expect(wrong).toEqual([]);
    expect(types.get('text/html; charset=utf-8')).toBeGreaterThan(200);
    expect([...types.keys()].some((type) => type.startsWith('image/jpeg') || type.startsWith('image/png'))).toBe(true);
  });

  it('tells what is where, how it may be kept, and what there is not', async () => {
    const page = await ask('/product/deck-oil?utm=letter', { 'Accept-Encoding': 'gzip' });
    expect(page.status).toBe(200);
    expect(page.headers).toMatchObject({
      ...{ 'content-encoding': 'gzip', 'content-language': 'en-GB', 'x-content-type-options': 'nosniff' },
      ...{ 'content-security-policy': expect.stringContaining("frame-ancestors 'none'") as string },
    });
    expect(gunzipSync(page.bytes).toString()).toContain('Deck oil');
    expect((await ask('/fr/product/deck-oil')).headers['content-language']).toBe('fr');
    const sheet = /\/assets\/[^"]+\.css\?v=\w+/.exec((await ask('/')).bytes.toString())?.[0] ?? '';
    expect((await ask(sheet)).headers).toMatchObject({
      ...{
        'cache-control': 'public, max-age=31536000, immutable',
        'content-type': expect.stringContaining('text/css') as string,
      },
    });
    expect((await ask(sheet.replace(/v=\w+/, 'v=00000000'))).status).toBe(404);
    const none = await ask('/no/such/page');
    expect([none.status, none.bytes.toString().includes('</html>')]).toEqual([404, true]);
    for (const path of ['/made.json', '/../made.json', '/%2e%2e/made.json', '/product/..%2f..%2fmade.json'])
      expect([path, (await ask(path)).status === 200]).toEqual([path, false]);
    expect(statSync(join(out, 'made.json')).size).toBeGreaterThan(1000);
  });

  it('answers what is typed first with a file, and leaves the rest to the node', async () => {
    serve(searched.to);
    const suggested = (q: string) => ask(`/fragment/pieces/suggestions?q=${q}`, {}, searched.port);
    await served(() => suggested('oi'));
    const { headers, bytes } = await suggested('oil');
    expect(bytes.toString()).toContain('href="/product/deck-oil"');
    expect(headers).toMatchObject({
      'cache-control': 'no-cache',
      'content-type': expect.stringContaining('text/html') as string,
      'content-security-policy': safetyHeaders('fragment', { addresses: addresses() })['Content-Security-Policy'],
    });
    // No node is there.
    for (const q of ['deck', 'zzz', 'OIL']) expect([q, (await suggested(q)).status]).toEqual([q, 502]);
  });
});

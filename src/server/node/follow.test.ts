import { createReadStream, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { publish, saveFiles } from '@/server/drafts';
import { saveRecords } from '@/server/records';
import { ReleaseFolder, Shop, stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { RecordReader } from '@/store';
import { Following } from './follow';
import { type Node, serveRelease } from './serve';

const newFolder = () => mkdtempSync(join(tmpdir(), 'follow-'));
const out = join(newFolder(), 'releases');
const folder = newFolder();
const here = newFolder();
const said: string[] = [];
let shop: Shop;
let releases: ReleaseFolder;
let server: Server;
let following: Following;
let node: Node;
/** What the server of files does instead of sending one that is asked for. */
let instead: ((name: string) => [status: number, body: string] | null) | null = null;
const asked: string[] = [];
beforeAll(async () => {
  shop = demoShop([], 'themes/withy-quay', new Shop(folder));
  releases = new ReleaseFolder(folder, out);
  releases.look();
  server = createServer((request, response) => {
    const name = (request.url ?? '').replace('/files/', '');
    asked.push(name);
    const other = instead?.(name);
    if (other) return response.writeHead(other[0]).end(other[1]);
    const tag = `"${readFileSync(join(out, 'now.json'), 'utf8').length}-${readdirSync(out).length}"`;
    if (name === 'now.json' && request.headers['if-none-match'] === tag) return response.writeHead(304).end();
    response.writeHead(200, { ETag: tag });
    createReadStream(join(out, name)).pipe(response);
  }).listen(0);
  following = new Following(`http://127.0.0.1:${(server.address() as AddressInfo).port}/files`, here);
  await following.look();
  node = await serveRelease({
    ...{ file: here, folder: newFolder(), port: 0, bind: '127.0.0.1', hosts: '', proxy: false },
    ...{ lookEvery: 50, say: (line: string) => said.push(line) },
  });
});
afterAll(async () => {
  await node.close();
  server.close();
  releases.close();
});

const page = async (path = '/product/deck-oil'): Promise<string> =>
  (await fetch(`http://127.0.0.1:${node.port}${path}`)).text();

/** Changes the price of all variants of deck oil, in pounds. */
function setPrice(price: number): void {
  const slug = 'deck-oil';
  const was = new RecordReader(shop.catalogue()).read('product', [slug]).get(slug) ?? {};
  const variants = (was.variants as object[]).map((one) => ({ ...one, price: price * 100, wasPrice: null }));
  const title = { title: 'A price', at: '2026-11-30T10:00:00.000Z', by: 'Robin' };
  saveRecords(shop, [{ kind: 'product', slug, before: was, after: { ...was, variants } }], title);
}
const deltas = (folder = here) =>
  readdirSync(folder)
    .filter((name) => name.endsWith('.delta'))
    .sort();

describe('a node that follows a folder of release files', () => {
  it('shows changed prices soon after their delta file, and makes again only pages that show them', async () => {
    const paths = ['/', '/product/deck-oil', '/category/lamps', '/content/care', '/listing/all'];
    for (const path of paths) await page(path);
    const { made } = node.counts;
    for (const price of [71, 72, 73]) {
      setPrice(price);
      releases.look();
      expect(await following.look()).toBe(true);
      await expect.poll(() => page(), { timeout: 5000, interval: 20 }).toContain(`£${price}.00`);
      for (const path of paths) await page(path);
    }
    expect(deltas()).toEqual(deltas(out));
    expect(node.counts.made).toBe(made);
    // The release file’s own is served no more, and nothing else was said.
    expect(said).toEqual([]);
    expect(await following.look()).toBe(false);
  });

  it('goes over to the next release, with what changed after it', async () => {
    const draft = stateOf(shop, 'draft/spring');
    saveFiles(shop, draft, [{ path: 'content/other.html', text: '<p>Other</p>\n', expected: null }]);
    publish(shop, stateOf(shop, 'draft/spring'), { note: 'Other' }, 'Robin');
    releases.look();
    setPrice(81);
    releases.look();
    const before = node.file();
    await following.look();
    await expect.poll(() => page(), { timeout: 5000 }).toContain('£81.00');
    await expect.poll(() => node.file()).not.toBe(before);
    expect(said.at(-1)).toMatch(/^Serving /);
  });

  it('starts over where the workbench was started again, and packed the same release', async () => {
    const change = (summary: string) => {
      const was = new RecordReader(shop.catalogue()).read('content', ['care']).get('care') ?? {};
      const title = { title: 'A text', at: '2026-11-30T10:00:00.000Z', by: 'Robin' };
      saveRecords(shop, [{ kind: 'content', slug: 'care', before: was, after: { ...was, summary } }], title);
      releases.look();
    };
    const again = async () => {
      releases.close();
      releases = new ReleaseFolder(folder, out);
      releases.look();
      await following.look();
    };
    await again();
    await expect.poll(() => said.at(-1)).toMatch(/^Serving /);
    const was = new RecordReader(shop.catalogue()).read('content', ['care']).get('care')?.summary as string;
    const count = readdirSync(out).filter((name) => name.endsWith('.release')).length;
    change('Another');
    change(was);
    await following.look();
    const chains = () => {
      const own = deltas().filter((name) => node.file().includes(name.slice(0, 16)));
      return [...new Set(own.map((name) => name.split('-')[1]))];
    };
    const before = chains();
    await again();
    expect(readdirSync(out).filter((name) => name.endsWith('.release')).length).toBe(count);
    setPrice(91);
    releases.look();
    await following.look();
    await expect.poll(() => page(), { timeout: 5000 }).toContain('£91.00');
    expect([before.length, chains().length]).toEqual([1, 1]);
    expect(chains()).not.toEqual(before);
  });

  it('waits for a delta file that has not come, and for one that came damaged', async () => {
    setPrice(101);
    const first = releases.look() ?? '';
    setPrice(102);
    const second = releases.look() ?? '';
    const copy = (file: string, bytes = readFileSync(file)) =>
      writeFileSync(join(here, file.slice(file.lastIndexOf('/') + 1)), bytes);
    copy(second);
    await expect
      .poll(() => said.at(-1), { timeout: 5000 })
      .toMatch(/cannot be used yet\. It is number \d+, and number \d+ has not come yet\.$/);
    copy(first, readFileSync(first).subarray(0, 2000));
    await expect.poll(() => said.at(-1), { timeout: 5000 }).toMatch(/\.delta cannot be used: /);
    expect(await page()).toContain('£91.00');
    copy(first);
    await expect.poll(() => page(), { timeout: 5000 }).toContain('£102.00');
  });

  it('keeps what it has where the other side fails, and says why', async () => {
    setPrice(111);
    releases.look();
    const release = readdirSync(here).filter((name) => name.endsWith('.release'));
    instead = () => [503, ''];
    await expect(following.look()).rejects.toThrow(/now\.json answers 503/);
    instead = (name) => (name === 'now.json' ? [200, '{"files":[{"name":"../../x.release","size":3}]}'] : null);
    await expect(following.look()).rejects.toThrow('is not a list of release files');
    instead = (name) => (name === 'now.json' ? [200, 'x'.repeat(2_000_000)] : null);
    await expect(following.look()).rejects.toThrow('is not a list of release files');
    instead = (name) => (name.endsWith('.delta') ? [200, 'short'] : null);
    await expect(following.look()).rejects.toThrow(/came with 5 of its \d+ bytes/);
    expect(readdirSync(here).filter((name) => name.endsWith('.release'))).toEqual(release);
    expect(readdirSync(here).filter((name) => name.endsWith('.part'))).toEqual([]);
    expect(await page()).toContain('£102.00');
    instead = null;
    await following.look();
    await expect.poll(() => page(), { timeout: 5000 }).toContain('£111.00');
    for (const text of ['ftp://x/', 'releases', 'http://x/?y'])
      expect(() => new Following(text, here)).toThrow('is no address of a folder of release files');
    rmSync(join(here, release[0] ?? ''), { force: true });
  });
});

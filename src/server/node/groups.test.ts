import { request } from 'node:http';
import { afterEach, expect, it } from 'vitest';
import { localePrefix, pathOf } from '@/core/address';
import { saveFiles } from '@/server/drafts';
import { stateOf } from '@/server/shop';
import { findSubjects } from '@/store';
import { type Answer, Behind } from './testing/behind';

let behind: Behind;
afterEach(() => behind.end());

/** Every page of the shop, as Varnish sends it. */
async function pages(paths: readonly string[]): Promise<Map<string, Answer>> {
  const all = new Map<string, Answer>();
  for (const path of paths) {
    const answer = await behind.ask(path);
    expect([path, answer.status]).toEqual([path, 200]);
    all.set(path, answer);
  }
  return all;
}
/** Seconds that Varnish has kept an answer. */
const ageOf = (answer: Answer | undefined): number => Number(answer?.headers.age ?? 0);
const rest = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Asks Varnish to drop pages, from another address of this machine. */
const purge = (groups: string, from = '127.0.0.1'): Promise<number> =>
  new Promise((resolve, reject) => {
    const headers = { 'Cache-Group-Invalidation': groups };
    const asked = request({ port: behind.port, method: 'PURGE', localAddress: from, headers }, (answer) => {
      answer.resume().on('end', () => resolve(answer.statusCode ?? 0));
    });
    asked.on('error', reject).end();
  });

it('Varnish keeps pages until a node says that they have changed: a price drops the pages that show it, a template those made with it', async () => {
  behind = new Behind();
  await behind.begin('varnish', true);
  const { shop } = behind;
  const { locales } = shop.catalogue().shop();
  const paths = findSubjects(shop.sql, '', null, 1000)
    .filter(({ kind }) => kind !== 'cart')
    .flatMap((one) => locales.map((locale) => localePrefix(locale, locales) + pathOf(one)));
  // Nodes that began have all pages asked for again: that is over.
  await rest(3000);
  const before = await pages(paths);
  expect([...before.values()].filter(({ headers }) => 'cache-groups' in headers)).toEqual([]);
  await rest(4000);
  for (const [path, answer] of await pages(paths)) expect([path, ageOf(answer) >= 3]).toEqual([path, true]);

  let [changed, dropped] = await changes('99.00', () => {
    behind.changePrice('deck-oil', 9900);
    behind.pack('live');
  });
  expect(changed).toBeGreaterThan(2);
  expect(dropped).toBeLessThanOrEqual(2 * changed);
  expect(dropped).toBeLessThan(paths.length / 4);

  const draft = stateOf(shop, 'draft/spring');
  const text = '<draw name="layouts/shop" title="New"><p class="new">New</p></draw>\n';
  const there = shop.theme(draft).theme.layers.at(-1)?.files.get('product/default.html')?.hash ?? null;
  saveFiles(shop, draft, [{ path: 'product/default.html', text, expected: there }]);
  [changed, dropped] = await changes('class="new"', () => void behind.pack('draft/spring'));
  expect(changed).toBeGreaterThan(20);
  expect(dropped).toBeLessThanOrEqual(2 * changed);
  expect(dropped).toBeLessThan(paths.length);

  expect(await purge('"page"', '127.0.0.2')).toBe(403);
  expect(await purge('"a|.*"')).toBe(400);
  expect(await purge('')).toBe(400);
  expect(ageOf(await behind.ask('/'))).toBeGreaterThan(0);
  expect(await purge('"nothing", "page"')).toBe(200);
  expect(ageOf(await behind.ask('/'))).toBe(0);

  /** How many pages differ two seconds after a change is seen, none of them as it was, and how many were asked for again. */
  async function changes(seen: string, change: () => void): Promise<[number, number]> {
    const was = await pages(paths);
    const from = Date.now();
    change();
    await expect.poll(async () => (await behind.ask('/product/deck-oil')).text, { timeout: 6000 }).toContain(seen);
    await rest(2000);
    const now = await pages(paths);
    const node = `http://127.0.0.1:${behind.ports[0]}`;
    for (const path of paths) {
      const made = await (await fetch(node + path)).text();
      const plain = (html = '') => html.replaceAll(/https?:\/\/[\w.]+:\d+/g, '');
      expect([path, plain(now.get(path)?.text) === plain(made)]).toEqual([path, true]);
    }
    const differ = paths.filter((path) => now.get(path)?.text !== was.get(path)?.text);
    // What is still kept has aged all the time since.
    const again = paths.filter((path) => ageOf(now.get(path)) < (Date.now() - from) / 1000 - 1.5);
    expect(differ.filter((path) => !again.includes(path))).toEqual([]);
    return [differ.length, again.length];
  }
});

import { afterEach, describe, expect, it } from 'vitest';
import { saveFiles } from '@/server/drafts';
import { stateOf } from '@/server/shop';
import { findSubjects } from '@/store';
import { localePrefix, pathOf } from '@/core/address';
import { fronts } from './front';
import { Behind } from './testing/behind';

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

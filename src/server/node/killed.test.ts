import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { seeded } from '@/core/language/testing/seeded';
import { pack, ReleaseFolder, releaseFault, Shop, stateOf } from '@/server/shop';
import { pageOf } from '@/server/storefront';
import { demoShop } from '@/server/testing/demo-shop';
import { programOf } from '@/server/testing/program';
import { readDelta } from '@/store';
import { type Node, serveRelease } from './serve';

/** A hundred take two minutes: `LAST_WHOLE=1`. */
const rounds = process.env.LAST_WHOLE === '1' ? 100 : 5;
const newFolder = () => mkdtempSync(join(tmpdir(), 'killed-'));
let program: Awaited<ReturnType<typeof programOf>>;
const folder = newFolder();
const out = newFolder();
let node: Node;
beforeAll(async () => {
  program = await programOf('src/server/node/testing/packing.ts');
  demoShop([], 'themes/withy-quay', new Shop(folder)).sql.db.close();
  pack(folder, 'live', out);
  const setup = { file: out, folder: newFolder(), port: 0, bind: '127.0.0.1', hosts: '', proxy: false };
  node = await serveRelease({ ...setup, lookEvery: 20 });
});
afterAll(async () => {
  await node.close();
  program.remove();
});

const { random } = seeded(22);

/** Runs the process, and kills it within so many milliseconds of its work. */
function killed(round: number, withinMs: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn('node', [program.file, folder, out, String(round + 1)], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    child.stdout.once('data', () => setTimeout(() => child.kill('SIGKILL'), random(withinMs)));
    child.once('exit', (code, signal) =>
      signal === 'SIGKILL' ? resolve() : reject(new Error(`It ended by itself, with ${code}`)),
    );
  });
}

it(
  'leaves whole files only, and a node that serves, whenever a pack is killed',
  async () => {
    const seen = new Set<string>();
    let deltas = 0;
    for (let round = 0; round < rounds; round++) {
      await killed(round, 1500);
      const files = readdirSync(out).filter((name) => name.endsWith('.release'));
      for (const name of files) {
        if (!seen.has(name)) expect([name, releaseFault(join(out, name), true)]).toEqual([name, null]);
        seen.add(name);
      }
      for (const name of readdirSync(out).filter((of) => of.endsWith('.delta'))) {
        expect(() => readDelta(join(out, name))).not.toThrow();
        deltas++;
      }
      const page = await fetch(`http://127.0.0.1:${node.port}/product/deck-oil`);
      expect([page.status, (await page.text()).includes('</html>')]).toEqual([200, true]);
    }
    expect(seen.size).toBeGreaterThan(1);
    expect(deltas).toBeGreaterThan(0);
    // What was begun and killed goes when the folder is kept up again.
    const releases = new ReleaseFolder(folder, out);
    releases.look();
    releases.close();
    expect(readdirSync(out).filter((name) => !/^(?:\w+\.release|[\w-]+\.delta|now\.json)$/.test(name))).toEqual([]);
    const shop = new Shop(folder, { readOnly: true });
    const page = pageOf(shop, stateOf(shop, 'live'), { path: '/product/deck-oil', query: {} }).html;
    const price = /£[\d,.]+/.exec(page)?.[0] ?? 'none';
    const served = async () => (await fetch(`http://127.0.0.1:${node.port}/product/deck-oil`)).text();
    await expect.poll(served, { timeout: 10_000 }).toContain(price);
  },
  rounds * 10_000,
);

import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { builtCommand, builtServer, expect, test, type Server } from './last';
import { faultOf } from '../src/store/backup';

const rounds = 10;
const numberIn = (text: string): number => Number(/<i>(\d+)<\/i>/.exec(text)?.[1] ?? 0);
const stock = (number: number) =>
  `<takes name="variant" type="Variant" required>\n<p class="stock"><i>${number}</i></p>\n`;

/** What was answered with “done”, the highest of each. */
interface Acknowledged {
  saved: number;
  published: number;
  releases: number;
  imported: number;
  /** Number of the version that updates go to. */
  version: number;
  /** Drafts that an update made, by their names in addresses. */
  updated: string[];
  updates: number;
}

/** Brings in a newer version of the base; gives its number. */
async function bringVersion(last: Server): Promise<number> {
  const zip = join(last.folder, 'quay.zip');
  execFileSync('python3', ['-m', 'zipfile', '-c', zip, resolve('themes/quay-1.1')]);
  const answer = await last.api.post(`${last.at}/api/versions`, {
    data: readFileSync(zip),
    headers: { 'Content-Type': 'application/zip' },
  });
  expect(answer.status()).toBe(200);
  return ((await answer.json()) as { id: number }).id;
}

/** Works on a server until it does not answer any more; notes all that it acknowledged. */
async function work(last: Server, known: Acknowledged, from: number): Promise<number> {
  const api = `${last.at}/api/drafts/spring`;
  let number = from;
  const save = async () => {
    const { hash } = (await (await last.api.get(`${api}/file?path=pieces/stock.html`)).json()) as {
      hash: string | null;
    };
    const wanted = ++number;
    const answer = await last.api.put(`${api}/file`, {
      data: { path: 'pieces/stock.html', text: stock(wanted), expected: hash },
    });
    if (answer.status() === 200) known.saved = wanted;
  };
  try {
    for (let turn = 0; ; turn++) {
      await save();
      const before = known.saved;
      const answer = await last.publish();
      if (answer.status() === 200) {
        known.published = before;
        known.releases = Math.max(known.releases, ((await answer.json()) as { number: number }).number);
      }
      if (turn % 2) continue;
      const zip = await last.api.get(`${api}/zip`);
      const put = await last.api.put(`${api}/zip`, {
        data: await zip.body(),
        headers: { 'Content-Type': 'application/zip' },
      });
      if (put.status() === 200) known.imported++;
      const update = await last.api.post(`${api}/update`, { data: { to: known.version } });
      if (update.status() === 200) known.updates = known.updated.push(((await update.json()) as { slug: string }).slug);
    }
  } catch {
    return number;
  }
}

test(`a server that is killed ${rounds} times at its work keeps all that it said was done`, async ({ last }) => {
  test.setTimeout(300_000);
  const version = await bringVersion(last);
  const known: Acknowledged = { saved: 0, published: 0, releases: 1, imported: 0, version, updated: [], updates: 0 };
  let number = 0;
  const backup = join(last.folder, '..', `${last.folder.split('/').pop()}.backup`);
  for (let round = 0; round < rounds; round++) {
    const copying = spawn('node', [...builtCommand, 'backup', backup], {
      env: { ...process.env, LAST_DATA: last.folder },
      stdio: 'ignore',
    });
    const ended = new Promise((resolve) => copying.once('exit', resolve));
    const working = work(last, known, number);
    // Moments spread over the first works, by the golden ratio; later ones while a slow machine has not come to all of them.
    const later = known.updates ? 0 : round * 600;
    await new Promise((resolve) => setTimeout(resolve, 900 + later + ((round * 0.618034) % 1) * 1500));
    await last.kill();
    if (round % 3 === 2) copying.kill('SIGKILL');
    number = await working;
    await ended;
    expect([round, faultOf(join(last.folder, 'last.sqlite'))]).toEqual([round, null]);
    if (existsSync(backup)) expect([round, faultOf(backup)]).toEqual([round, null]);
    await last.start();
    const file = (await (await last.api.get(`${last.at}/api/drafts/spring/file?path=pieces/stock.html`)).json()) as {
      text: string;
    };
    const live = await (await last.visit('/product/deck-oil')).text();
    const { releases } = (await (await last.api.get(`${last.at}/api/releases`)).json()) as {
      releases: { number: number }[];
    };
    const { drafts } = (await (await last.api.get(`${last.at}/api/drafts`)).json()) as { drafts: { slug: string }[] };
    const lost = known.updated.filter((slug) => !drafts.some((one) => one.slug === slug));
    expect([
      round,
      lost,
      numberIn(file.text) >= known.saved,
      numberIn(live) >= known.published,
      (releases[0]?.number ?? 0) >= known.releases,
    ]).toEqual([round, [], true, true, true]);
    // Of each of them all is there: the layer that it stands on, and its one change.
    for (const slug of new Set(drafts.map((one) => one.slug).filter((one) => one !== 'spring'))) {
      const { layers } = (await (await last.api.get(`${last.at}/api/drafts/${slug}/layers`)).json()) as {
        layers: { kind: string; version: string }[];
      };
      expect([round, slug, layers.find(({ kind }) => kind === 'base')?.version]).toEqual([round, slug, '1.1']);
    }
    for (const slug of known.updated.splice(0)) await last.api.delete(`${last.at}/api/drafts/${slug}`, { data: {} });
  }
  // It was really at it.
  expect([
    known.saved >= rounds / 2,
    known.published > 0,
    known.imported > 0,
    known.updates > 0,
    existsSync(backup),
  ]).toEqual([true, true, true, true, true]);
  expect(readdirSync(last.folder).filter((name) => name.endsWith('.part'))).toEqual([]);
  rmSync(backup);
});

test('of two servers on one data folder the second is told who holds it, and commands go through the first', async ({
  last,
}) => {
  const second = spawnSync('node', builtServer, {
    env: { ...process.env, NODE_ENV: 'production', PORT: '4999', LAST_DATA: last.folder },
    encoding: 'utf8',
    timeout: 30_000,
  });
  expect([second.status, second.stderr]).toEqual([
    1,
    expect.stringContaining(`is in use by the server (process ${last.pid}, since `),
  ]);
  const restored = spawnSync('node', [...builtCommand, 'restore', 'none'], {
    env: { ...process.env, LAST_DATA: last.folder },
    encoding: 'utf8',
  });
  expect([restored.status, restored.stderr]).toEqual([1, expect.stringContaining('There is no file')]);
  const backup = join(last.folder, 'whole.backup');
  last.command('backup', backup);
  // The server does it: what it shows has changed, with nothing asked of it.
  expect(await (await last.visit('/listing/tag/natural-fibre')).text()).toContain('Tarred hemp rope');
  expect(last.command('retire-tag', 'natural-fibre')).toContain('The tag natural-fibre is retired');
  expect((await last.visit('/listing/tag/natural-fibre')).status()).toBe(404);
  // A backup is restored while visitors come.
  expect(last.command('restore', backup)).toContain('What was there before is in ');
  expect(await (await last.visit('/listing/tag/natural-fibre')).text()).toContain('Tarred hemp rope');
  // Killed, it holds nothing any more.
  await last.kill();
  expect(last.command('retire-tag', 'load-rated')).toContain('The tag load-rated is retired');
});

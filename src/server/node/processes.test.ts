import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import getPort from 'get-port';
import { pack, Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { commandFile } from '@/server/testing/program';

const newFolder = () => mkdtempSync(join(tmpdir(), 'processes-'));
const running: ChildProcess[] = [];
let command: string;
beforeAll(async () => {
  command = await commandFile();
});
afterAll(() => running.forEach((one) => one.kill('SIGKILL')));

/** The command, as it is typed; `said` is all that it printed so far. */
function serve(...args: string[]) {
  const child = spawn('node', [command, 'serve', ...args], { stdio: 'pipe' });
  running.push(child);
  const heard = { text: '' };
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (bytes) => (heard.text += String(bytes)));
  return { child, heard, ended: once(child, 'exit') as Promise<[number | null]> };
}

const childrenOf = (pid: number): number[] =>
  execFileSync('ps', ['-o', 'pid=,args=', '--ppid', String(pid)], { encoding: 'utf8' })
    .split('\n')
    .filter((line) => line.includes(command))
    .map(Number.parseFloat);

describe('a node of several processes', () => {
  it('shares a port, starts again what is killed, and ends all when it is told to', async () => {
    const folder = newFolder();
    demoShop([], 'themes/withy-quay', new Shop(folder));
    const { file } = pack(folder, 'live', newFolder());
    const port = await getPort();
    const { child, heard, ended } = serve(file, '--port', String(port), '--data', newFolder(), '--processes', '2');
    await expect.poll(() => heard.text, { timeout: 30_000 }).toContain('with 2 processes');
    const ask = () =>
      fetch(`http://127.0.0.1:${port}/product/deck-oil`, { headers: { Connection: 'close' } }).then(
        ({ status }) => status,
        () => 0,
      );
    expect(await ask()).toBe(200);
    const before = childrenOf(child.pid ?? 0);
    expect(before).toHaveLength(2);
    process.kill(before[0] ?? 0, 'SIGKILL');
    const isNew = () => childrenOf(child.pid ?? 0).some((pid) => !before.includes(pid));
    await expect.poll(isNew, { timeout: 30_000 }).toBe(true);
    for (let times = 0; times < 10; times++) expect(await ask()).toBe(200);
    child.kill('SIGTERM');
    expect((await ended)[0]).toBe(0);
    expect(await ask()).toBe(0);
  });

  it('ends with the reason when it cannot begin', async () => {
    const broken = join(newFolder(), 'broken.release');
    writeFileSync(broken, 'nothing of the kind');
    const { heard, ended } = serve(
      broken,
      '--port',
      String(await getPort()),
      '--data',
      newFolder(),
      '--processes',
      '2',
    );
    expect((await ended)[0]).toBe(1);
    expect(heard.text).toContain('cannot be used');
  });
});

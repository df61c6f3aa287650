import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { commandFile } from '@/server/testing/program';

it('seed works while the port is in use, and explain reports an alternate that does not exist', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'last-seed-'));
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const command = await commandFile();
  const last = (...args: string[]) => {
    const { status, stdout, stderr } = spawnSync('node', [command, ...args], {
      encoding: 'utf8',
      env: { ...process.env, LAST_DATA: folder, PORT: String(port) },
    });
    return [status, stdout + stderr];
  };
  expect(last('seed')).toEqual([0, expect.stringContaining('with the demo shop')]);
  const explain = (name: string) => last('explain', '/product/shock-cord', '--state', 'draft/spring', '--try', name);
  expect(explain('load-rated')).toEqual([0, expect.stringContaining('product/load-rated (tried')]);
  expect(explain('default')).toEqual([0, expect.stringContaining('product/default (tried')]);
  expect(explain('load-rate')).toEqual([
    1,
    expect.stringMatching(/^There is no “load-rate” to try at \/product\/shock-cord: there is default, .*load-rated/),
  ]);
  server.close();
  rmSync(folder, { recursive: true });
});

import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import getPort from 'get-port';
import { afterEach, expect, it } from 'vitest';
import { ToldCache } from './tell';

let server: Server | null = null;
afterEach(() => new Promise<void>((resolve) => (server ? server.close(() => resolve()) : resolve())));

/** A cache that writes down what it is told; it answers with these statuses first, then with 200. */
async function cache(statuses: number[] = [], port = 0): Promise<{ at: string; told: string[] }> {
  const told: string[] = [];
  server = createServer((request, response) => {
    const status = statuses.shift() ?? 200;
    if (status === 200) told.push(`${request.method} ${String(request.headers['cache-group-invalidation'])}`);
    response.writeHead(status, { Connection: 'close' }).end();
  });
  await new Promise<void>((resolve) => server?.listen(port, '127.0.0.1', resolve));
  return { at: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, told };
}

it('a cache is told at once, and a moment later for what was on its way to it', async () => {
  const { at, told } = await cache();
  const one = new ToldCache(at, () => {});
  one.tell(['price', 'any']);
  await expect.poll(() => told).toEqual(['PURGE "price", "any"']);
  await expect.poll(() => told, { timeout: 5000 }).toHaveLength(2);
  expect(told[1]).toBe(told[0]);
  await one.close();
});

it('a cache that does not answer is told again, and one line says so', async () => {
  const port = await getPort();
  const said: string[] = [];
  const one = new ToldCache(`http://127.0.0.1:${port}`, (line) => said.push(line));
  one.tell(['a']);
  await expect.poll(() => said).toHaveLength(1);
  one.tell(['b']);
  const { told } = await cache([], port);
  await expect.poll(() => told.join(), { timeout: 8000 }).toMatch(/"a".*"b"|"b".*"a"/);
  expect(said).toEqual([expect.stringMatching(/cannot be told what has changed: .*ECONNREFUSED.*tried again\.$/)]);
  await one.close();
});

it('many groups go in several requests, and for too many all pages are dropped', async () => {
  const { at, told } = await cache();
  const one = new ToldCache(at, () => {});
  one.tell(Array.from({ length: 450 }, (_, number) => `g${number}`));
  await expect.poll(() => told.length).toBe(3);
  expect(told.map((line) => line.split(', ').length)).toEqual([200, 200, 50]);
  one.tell(Array.from({ length: 3000 }, (_, number) => `h${number}`));
  await expect.poll(() => told.at(-1)).toBe('PURGE "page"');
  await one.close();
});

it.each(['', '127.0.0.1:6081', 'ftp://127.0.0.1'])('“%s” is no address of a cache', (address) => {
  expect(() => new ToldCache(address, () => {})).toThrow('it is like http://127.0.0.1:6081');
});

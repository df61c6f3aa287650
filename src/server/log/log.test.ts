import { mkdtempSync, readFileSync, renameSync } from 'node:fs';
import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { counted } from '@/server/health';
import { refusing } from '@/server/http';
import { fault, idIn, openLog, plainPath } from '.';

const global = globalThis as { lastLog?: unknown };
const closing: (() => void)[] = [];
afterEach(() => {
  delete global.lastLog;
  vi.restoreAllMocks();
  for (const close of closing.splice(0)) close();
});

async function listening(part: string, listener: RequestListener): Promise<string> {
  const server = createServer(counted(part, null, listener)).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  closing.push(() => server.close());
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}
const file = () => join(mkdtempSync(join(tmpdir(), 'log-')), 'last.log');
const linesOf = (path: string) =>
  readFileSync(path, 'utf8')
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as Record<string, unknown>);
/** The lines of a file once there are so many. */
const lines = async (path: string, count: number) => {
  await expect.poll(() => linesOf(path).length, { timeout: 5000 }).toBe(count);
  return linesOf(path);
};

describe('a path in the log', () => {
  it.each([
    ['/product/deck-oil?variant=OIL-1#top', '/product/deck-oil'],
    ['/listing/search?q=my+name', '/listing/search'],
    ['/come-in?link=secret', '/come-in'],
    ['/someone@example.org/x', '/*/x'],
    ['/a/some%40one', '/a/*'],
    [`/${'a'.repeat(500)}`, `/${'a'.repeat(199)}`],
  ])('%s is %s', (url, path) => expect(plainPath(url)).toBe(path));
});

describe('the log', () => {
  it('has a line for each answer, with the id that the request came with, or a new one', async () => {
    const path = file();
    await openLog(path);
    const seen: (string | null)[] = [];
    const at = await listening('workbench', (request, response) => {
      seen.push(idIn(request));
      response.writeHead(request.url === '/x' ? 404 : 200).end();
    });
    const given = await fetch(`${at}/bench?page=/`, { headers: { 'X-Request-Id': 'from-the-front-1' } });
    const other = await fetch(`${at}/x`, { headers: { 'X-Request-Id': 'two words, and "more"' } });
    const [one, two] = await lines(path, 2);
    expect(one).toMatchObject({
      ...{ level: 'info', id: 'from-the-front-1', part: 'workbench', method: 'GET', path: '/bench', status: 200 },
      ...{ ms: expect.any(Number) as number, time: expect.stringMatching(/^\d{4}-\d\d-\d\dT.*Z$/) as string },
    });
    expect(given.headers.get('x-request-id')).toBe('from-the-front-1');
    expect(two).toMatchObject({ status: 404, id: other.headers.get('x-request-id') });
    expect(seen).toEqual([one?.id, two?.id]);
    expect(two?.id).toMatch(/^[\da-f]{8}-[\da-f]{4}-[\da-z]+$/);
    const again = await fetch(`${at}/x`);
    expect(again.headers.get('x-request-id')).not.toBe(two?.id);
  });

  it('has one line for an answer that is there at once, and for one that takes its time', async () => {
    const path = file();
    await openLog(path);
    const at = await listening('shop', (request, response) => {
      if (request.url === '/kept') response.end('page');
      else setTimeout(() => response.writeHead(201).end('page'), 120);
    });
    for (const one of ['/kept', '/made "twice"', '/kept']) await (await fetch(at + one)).text();
    const told = await lines(path, 3);
    expect(told.map(({ path, status }) => [path, status])).toEqual([
      ['/kept', 200],
      ['/made%20%22twice%22', 201],
      ['/kept', 200],
    ]);
    expect(told.map(({ ms }) => Number(ms) >= 119)).toEqual([false, true, false]);
  });

  it('says nothing of who asked, and gives what caches may keep no id', async () => {
    const path = file();
    await openLog(path);
    const at = await listening('shop', (_, response) => void response.end('page'));
    const headers = { Cookie: 'cart=secret-cart', Authorization: 'Bearer secret-token', 'User-Agent': 'someone' };
    const answer = await fetch(`${at}/listing/search?q=secret-words`, { headers });
    expect(answer.headers.get('x-request-id')).toBeNull();
    const [line] = await lines(path, 1);
    expect(Object.keys(line ?? {})).toEqual(['level', 'time', 'id', 'part', 'method', 'path', 'status', 'ms']);
    expect(JSON.stringify(line)).not.toMatch(/secret|someone|127\.0\.0\.1/);
  });

  it('tells an answer that was broken off, and a fault with the request that met it', async () => {
    const path = file();
    await openLog(path);
    const at = await listening('shop', (_, response) => void response.destroy());
    await expect(fetch(at)).rejects.toThrow();
    expect(await lines(path, 1)).toMatchObject([{ broken: true }]);
    const answer = await refusing(() => Promise.reject(new RangeError('too far')), 'request-7');
    expect(answer.status).toBe(500);
    fault('The disk makes a noise');
    expect((await lines(path, 3)).slice(1)).toMatchObject([
      { level: 'error', id: 'request-7', msg: 'too far', err: { type: 'RangeError' } },
      { level: 'error', msg: 'The disk makes a noise' },
    ]);
  });

  it('goes on in a new file at SIGHUP, where the old one was moved away', async () => {
    const path = file();
    await openLog(path);
    fault('one');
    await lines(path, 1);
    renameSync(path, `${path}.1`);
    process.emit('SIGHUP', 'SIGHUP');
    await expect.poll(() => linesOf(`${path}.1`).length).toBe(1);
    await vi.waitFor(() => readFileSync(path));
    fault('two');
    expect(await lines(path, 1)).toMatchObject([{ msg: 'two' }]);
  });

  it('is reported once when it cannot be written, and answers go on; one that cannot be opened is refused', async () => {
    const said = vi.spyOn(console, 'error').mockImplementation(() => {});
    // Linux answers every write to it with ENOSPC (full(4)).
    await openLog('/dev/full');
    const at = await listening('shop', (_, response) => void response.end('page'));
    for (let times = 0; times < 3; times++) {
      expect(await (await fetch(at)).text()).toBe('page');
      await new Promise((resolve) => setTimeout(resolve, 600));
    }
    expect(said.mock.calls).toEqual([[expect.stringMatching(/^The log cannot be written: .*no space/)]]);
    await expect(openLog('/nowhere/at/all.log')).rejects.toThrow(/ENOENT/);
  });

  it('is not there unless it is asked for: faults are said as text', async () => {
    const said = vi.spyOn(console, 'error').mockImplementation(() => {});
    await openLog('');
    fault('one');
    expect(said.mock.calls).toEqual([['one']]);
    const listener: RequestListener = (_, response) => void response.end();
    expect(counted('shop', null, listener)).toBe(listener);
  });
});

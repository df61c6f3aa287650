import { createServer, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { brotliDecompressSync, gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { deliver, type Answer } from './deliver';

const page = Buffer.from(`<p>${'Tarred hemp rope. '.repeat(200)}</p>`);
const film = Buffer.from(Array.from({ length: 5000 }, (_, at) => at % 251));
const answers: Record<string, Answer> = {
  '/page': {
    ...{ status: 200, bytes: page, etag: '"p1"' },
    headers: { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'public, s-maxage=1', vary: 'Cookie' },
  },
  '/film': { status: 200, headers: { 'content-type': 'video/mp4' }, bytes: film, etag: '"f1"' },
  '/short': { status: 200, headers: { 'content-type': 'text/css' }, bytes: Buffer.from('p{}'), etag: '"s1"' },
  '/gone': { status: 404, headers: { 'content-type': 'text/html' }, bytes: page, etag: null },
};

let server: Server;
beforeAll(async () => {
  server = createServer((asked, response) => void deliver(asked, response, answers[asked.url ?? ''] as Answer));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
});
afterAll(() => void server.close());

function ask(path: string, headers: Record<string, string> = {}, method = 'GET') {
  return new Promise<{ status: number; headers: Record<string, unknown>; bytes: Buffer }>((resolve, reject) => {
    const { port } = server.address() as AddressInfo;
    const sent = request({ port, path, method, headers }, (answer) => {
      const parts: Buffer[] = [];
      answer.on('data', (part: Buffer) => parts.push(part));
      answer.on('end', () =>
        resolve({ status: answer.statusCode ?? 0, headers: answer.headers, bytes: Buffer.concat(parts) }),
      );
    });
    sent.on('error', reject).end();
  });
}

describe('an answer, as the one who asks takes it', () => {
  // RFC 9110, 8.4 and 12.5.3: what is accepted, by weight; `identity` unless it is ruled out.
  it.each([
    [undefined, undefined],
    ['', undefined],
    ['identity', undefined],
    ['gzip', 'gzip'],
    ['gzip, deflate, br, zstd', 'br'],
    ['br;q=0, gzip', 'gzip'],
    ['br;q=0.5, gzip;q=0.8', 'gzip'],
    ['*', 'br'],
    ['gzip;q=0', undefined],
    ['deflate', undefined],
    ['g zip; br', undefined],
  ])('to “%s” comes as %s', async (accepts, encoding) => {
    const answer = await ask('/page', accepts === undefined ? {} : { 'Accept-Encoding': accepts });
    expect([answer.status, answer.headers['content-encoding']]).toEqual([200, encoding]);
    const plain = { br: brotliDecompressSync, gzip: gunzipSync }[encoding ?? ''] ?? ((bytes: Buffer) => bytes);
    expect(plain(answer.bytes).equals(page)).toBe(true);
    expect(answer.headers['content-length']).toBe(String(answer.bytes.length));
    // A cache that keeps one for another must know what told them apart (RFC 9111, 4.1).
    expect(answer.headers.vary).toBe('Cookie, Accept-Encoding');
  });

  it('has an ETag of its own in each encoding, and each is found unchanged by it alone', async () => {
    const tags = new Set<unknown>();
    for (const accepts of ['identity', 'gzip', 'br']) {
      const { headers } = await ask('/page', { 'Accept-Encoding': accepts });
      tags.add(headers.etag);
      const again = await ask('/page', { 'Accept-Encoding': accepts, 'If-None-Match': String(headers.etag) });
      expect([again.status, again.bytes.length, again.headers.etag]).toEqual([304, 0, headers.etag]);
      expect(again.headers['cache-control']).toBe('public, s-maxage=1');
    }
    expect(tags.size).toBe(3);
    expect((await ask('/page', { 'If-None-Match': '"other", W/"p1"' })).status).toBe(304);
    expect((await ask('/page', { 'If-None-Match': '*' })).status).toBe(304);
    expect((await ask('/page', { 'If-None-Match': '"p1;gzip"' })).status).toBe(200);
  });

  // RFC 9110, 14: parts of a film, as browsers ask for them.
  it.each([
    ['bytes=0-99', 206, 'bytes 0-99/5000', 0, 100],
    ['bytes=4990-', 206, 'bytes 4990-4999/5000', 4990, 5000],
    ['bytes=-10', 206, 'bytes 4990-4999/5000', 4990, 5000],
    ['bytes=100-9999', 206, 'bytes 100-4999/5000', 100, 5000],
    ['bytes=5000-', 416, 'bytes */5000', 0, 0],
    ['bytes=9-3', 416, 'bytes */5000', 0, 0],
    ['bytes=0-1,5-6', 200, undefined, 0, 5000],
    ['lines=0-1', 200, undefined, 0, 5000],
    ['bytes', 200, undefined, 0, 5000],
  ])('to the part “%s” is %i', async (range, status, told, from, to) => {
    const answer = await ask('/film', { Range: range });
    expect([answer.status, answer.headers['content-range']]).toEqual([status, told]);
    expect(answer.bytes.equals(film.subarray(from, to))).toBe(true);
    expect(answer.headers['accept-ranges']).toBe('bytes');
  });

  it('gives a part only of the file that was begun', async () => {
    expect((await ask('/film', { Range: 'bytes=0-9', 'If-Range': '"f1"' })).status).toBe(206);
    expect((await ask('/film', { Range: 'bytes=0-9', 'If-Range': '"f0"' })).status).toBe(200);
    expect((await ask('/film', { Range: 'bytes=0-9', 'If-None-Match': '"f1"' })).status).toBe(304);
  });

  it('to HEAD has the headers alone; what is short, or no page, comes as it is', async () => {
    const head = await ask('/page', { 'Accept-Encoding': 'gzip' }, 'HEAD');
    const get = await ask('/page', { 'Accept-Encoding': 'gzip' });
    expect([head.status, head.bytes.length]).toEqual([200, 0]);
    expect(head.headers['content-length']).toBe(get.headers['content-length']);
    expect((await ask('/short', { 'Accept-Encoding': 'br' })).headers['content-encoding']).toBeUndefined();
    expect((await ask('/gone', { 'Accept-Encoding': 'br', 'If-None-Match': '*' })).status).toBe(404);
  });
});

import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { endpoint } from '@/contract/endpoint';
import { ApiError, call, callForLines } from './api';

const read = endpoint('GET', '/api/drafts/{draft}/file', 'Reads', {
  query: z.object({ path: z.string() }),
  answer: z.object({ n: z.number() }),
});
const write = endpoint('PUT', '/api/drafts/{draft}/file', 'Writes', {
  body: z.object({ text: z.string() }),
  answer: z.object({ n: z.number() }),
});
const take = endpoint('PUT', '/api/drafts/{draft}/zip', 'Takes a ZIP', { takes: 'zip' });
const find = endpoint('POST', '/api/drafts/{draft}/survey', 'Finds', {
  body: z.object({ words: z.string() }),
  sends: 'lines',
  answer: z.object({ n: z.number() }),
});

/** What was sent, and what comes back. */
let sent: { address: string; options: RequestInit }[] = [];
let back: () => Response;
beforeEach(() => {
  sent = [];
  vi.stubGlobal('document', { querySelector: () => ({ content: 'the-token' }) });
  vi.stubGlobal('localStorage', { getItem: () => 'Ada Möör' });
  vi.stubGlobal('fetch', (address: string, options: RequestInit) => {
    sent.push({ address, options });
    return Promise.resolve().then(() => back());
  });
});
afterEach(() => vi.unstubAllGlobals());

const refusedWith = async (work: Promise<unknown>) => {
  const error = await work.then(
    () => null,
    (one: unknown) => one,
  );
  return error instanceof ApiError ? [error.status, error.body] : error;
};

describe('a call', () => {
  it('goes to its address, with who asks; reading needs no token', async () => {
    back = () => Response.json({ n: 1 });
    expect(await call(read, { draft: 'spring', path: 'a b.html' })).toEqual({ n: 1 });
    expect(sent).toEqual([
      {
        address: '/api/drafts/spring/file?path=a+b.html',
        options: { method: 'GET', headers: { 'x-last-author': 'Ada%20M%C3%B6%C3%B6r' } },
      },
    ]);
  });
  it('that writes carries the token, and its body as JSON', async () => {
    back = () => Response.json({ n: 2 });
    await call(write, { draft: 'spring' }, { text: 'x' });
    expect(sent[0]?.options).toMatchObject({
      method: 'PUT',
      body: '{"text":"x"}',
      headers: { 'x-last-token': 'the-token', 'Content-Type': 'application/json' },
    });
  });
  it('sends a ZIP as it is', async () => {
    back = () => Response.json({});
    const zip = new Blob(['PK']);
    await call(take, { draft: 'spring' }, zip);
    expect(sent[0]?.options.body).toBe(zip);
    expect(sent[0]?.options.headers).not.toHaveProperty('Content-Type');
  });
  it.each([
    [
      'a refusal, with its sentence',
      () => Response.json({ code: 'file', message: 'There is none.' }, { status: 404 }),
      [404, { code: 'file', message: 'There is none.' }],
    ],
    [
      'an answer that is not JSON',
      () => new Response('<html>', { status: 502 }),
      [502, { code: 'answer', message: 'The server’s answer cannot be read (status 502).' }],
    ],
    [
      'no answer',
      () => {
        throw new TypeError('Failed to fetch');
      },
      [0, { code: 'offline', message: 'The server does not answer. Is it running? Try again when it is.' }],
    ],
  ])('fails with %s', async (_, answer, expected) => {
    back = answer;
    expect(await refusedWith(call(read, { draft: 'spring', path: 'a' }))).toEqual(expected);
  });
});

describe('a call for lines', () => {
  const lines = (...parts: string[]) =>
    new Response(
      new ReadableStream({
        start(controller) {
          for (const part of parts) controller.enqueue(new TextEncoder().encode(part));
          controller.close();
        },
      }),
    );
  const heard = async (answer: () => Response, signal = new AbortController().signal) => {
    back = answer;
    const found: { n: number }[] = [];
    const failed = await refusedWith(
      callForLines(find, { draft: 'spring' }, { words: 'a' }, (line) => found.push(line), signal),
    );
    return { found, failed };
  };
  it('hears each, however they are cut', async () =>
    expect(await heard(() => lines('{"n":1}\n{"n"', ':2}\n{"n":3}\n'))).toEqual({
      found: [{ n: 1 }, { n: 2 }, { n: 3 }],
      failed: null,
    }));
  it('ends with the reason where the work failed', async () =>
    expect(await heard(() => lines('{"n":1}\n{"failed":"The thread ended."}\n{"n":2}\n'))).toEqual({
      found: [{ n: 1 }],
      failed: [500, { code: 'lines', message: 'The thread ended.' }],
    }));
  it.each([
    ['after something was found', ['{"n":1,"done":false}\n']],
    ['before anything was', []],
  ])('that was cut off %s fails: it does not count as the end', async (_, parts) =>
    expect((await heard(() => lines(...parts))).failed).toEqual([
      500,
      { code: 'lines', message: 'This ended before it was done. Ask for it once more.' },
    ]),
  );
  it('is refused like any other', async () =>
    expect(
      (await heard(() => Response.json({ code: 'draft', message: 'There is none.' }, { status: 404 }))).failed,
    ).toEqual([404, { code: 'draft', message: 'There is none.' }]));
  it('that was stopped fails as it was stopped, not as a lost connection', async () => {
    const stop = new AbortController();
    stop.abort();
    const { failed } = await heard(() => {
      throw new DOMException('stopped', 'AbortError');
    }, stop.signal);
    expect((failed as unknown as Error).name).toBe('AbortError');
  });
});

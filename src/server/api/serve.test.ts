import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { endpoint } from '@/contract/endpoint';
import { demoShop } from '../testing/demo-shop';
import { dispatcher, serve as serveFor, type Served } from './serve';

const global = globalThis as { lastShop?: unknown };
beforeAll(() => {
  global.lastShop = demoShop();
});
afterAll(() => {
  delete global.lastShop;
});

const echo = endpoint('POST', '/api/drafts/{draft}/history/{change}', 'Says what it was given', {
  query: z.object({ path: z.string().max(5).optional(), times: z.coerce.number().int().default(1) }),
  body: z.strictObject({ title: z.string().min(1, 'Give it a name') }),
  answer: z.object({
    draft: z.string(),
    change: z.number(),
    path: z.string(),
    times: z.number(),
    title: z.string(),
    by: z.string(),
  }),
});
/** Calls of these tests are for everyone. */
const serve: typeof serveFor = (one, work) => serveFor(one, work, 'look');
const echoes = serve(echo, ({ draft, change, query, body, by }) => ({
  draft: draft.name,
  change,
  path: query.path ?? 'none',
  times: query.times,
  title: body.title,
  by,
}));

const ask = async (
  call: Served,
  {
    params = {},
    query = '',
    body,
    by = '',
  }: { params?: Record<string, string>; query?: string; body?: string; by?: string },
) => {
  const request = new Request(`http://localhost/api/x${query}`, {
    method: call.endpoint.method,
    headers: { 'x-last-author': by },
    ...(body === undefined ? {} : { body }),
  });
  const response = await call.handle(request, params);
  const text = await response.text();
  return { status: response.status, type: response.headers.get('content-type'), text };
};
const refused = (status: number, code: string, message: string) => ({
  status,
  type: 'application/json',
  text: JSON.stringify({ code, message }),
});

describe('a call', () => {
  const params = { draft: 'spring', change: '7' };
  const body = '{"title":"One"}';
  it('is given the draft, the parameters, the query, the body and who asks', async () => {
    const { status, text } = await ask(echoes, { params, query: '?path=a&times=3&other=1', body, by: 'Ada%20Moor' });
    expect({ status, answer: JSON.parse(text) as unknown }).toEqual({
      status: 200,
      answer: { draft: 'Spring fit-out', change: 7, path: 'a', times: 3, title: 'One', by: 'Ada Moor' },
    });
  });
  it.each([
    [
      'a draft that there is not',
      { params: { ...params, draft: 'autumn' }, body },
      [404, 'draft', 'There is no draft “autumn”.'],
    ],
    [
      'what cannot be a draft’s name',
      { params: { ...params, draft: '../x' }, body },
      [400, 'contract', 'a name of small letters, digits and single hyphens'],
    ],
    [
      'what is not a number',
      { params: { ...params, change: 'x' }, body },
      [400, 'contract', 'Invalid input: expected number, received NaN'],
    ],
    [
      'a query that breaks its contract',
      { params, query: '?path=abcdef', body },
      [400, 'contract', '“path”: Too big: expected string to have <=5 characters'],
    ],
    ['a body that is not JSON', { params, body: '{' }, [400, 'body', 'The request’s body is not valid JSON.']],
    ['a body that breaks its contract', { params, body: '{"title":""}' }, [400, 'contract', '“title”: Give it a name']],
    [
      'a body with more than its contract',
      { params, body: '{"title":"a","more":1}' },
      [400, 'contract', 'Unrecognized key: "more"'],
    ],
  ] as const)('refuses %s', async (_, given, [status, code, message]) =>
    expect(await ask(echoes, given)).toEqual(refused(status, code, message)),
  );
});

describe('the call of a request', () => {
  const plain = (method: 'GET' | 'POST', path: string, says: string) =>
    serve(endpoint(method, path, 'Says which call it is', { answer: z.array(z.string()) }), (given) => [
      says,
      ...Object.values(given)
        .filter((one) => typeof one === 'number')
        .map(String),
    ]);
  const answer = dispatcher([
    plain('GET', '/api/releases', 'list'),
    plain('POST', '/api/releases/{number}/live', 'live'),
    plain('GET', '/api/releases/{number}', 'one'),
  ]);
  const asked = async (method: string, path: string) => {
    const response = await answer(new Request(`http://localhost${path}`, { method }));
    return [response.status, await response.json()];
  };
  it.each([
    ['GET', '/api/releases', [200, ['list']]],
    ['GET', '/api/releases?x=1', [200, ['list']]],
    ['GET', '/api/releases/12', [200, ['one', '12']]],
    ['GET', '/api/releases/%31', [200, ['one', '1']]],
    ['POST', '/api/releases/3/live', [200, ['live', '3']]],
    ['POST', '/api/releases', [405, { code: 'method', message: '/api/releases does not answer POST.' }]],
    ['GET', '/api/release', [404, { code: 'call', message: 'There is no /api/release here.' }]],
    ['GET', '/api/releases/1/2/live', [404, { code: 'call', message: 'There is no /api/releases/1/2/live here.' }]],
  ])('%s %s', async (method, path, expected) => expect(await asked(method, path)).toEqual(expected));
});

describe('in tests and in development an answer', () => {
  const one = endpoint('GET', '/api/one', 'Gives a number', { answer: z.object({ n: z.number() }) });
  const lines = endpoint('GET', '/api/lines', 'Gives numbers', { sends: 'lines', answer: z.object({ n: z.number() }) });
  const stream = (...given: string[]) =>
    new ReadableStream<Uint8Array>({
      start(controller) {
        for (const text of given) controller.enqueue(new TextEncoder().encode(text));
        controller.close();
      },
    });
  const failing = refused(
    500,
    'fault',
    'Last failed at this: nothing was changed. What happened stands in the server’s log.',
  );
  /** What the log says meanwhile. */
  const logged = async (work: () => Promise<unknown>) => {
    const log = vi.spyOn(console, 'error').mockImplementation(() => {});
    const answer = await work();
    const said = log.mock.calls.map(([error]) => (error as Error).message.split('\n')[0]);
    log.mockRestore();
    return { answer, said };
  };

  it('passes that is as its contract says, made here or by a thread', async () => {
    expect(
      (
        await ask(
          serve(one, () => ({ n: 1 })),
          {},
        )
      ).text,
    ).toBe('{"n":1}');
    expect(
      (
        await ask(
          serve(one, () => Response.json({ n: 2 })),
          {},
        )
      ).text,
    ).toBe('{"n":2}');
  });
  it('of another type fails, and the log names the call', async () => {
    const wrong = serve(one, () => ({ n: 'two' }) as never);
    const { answer, said } = await logged(() => ask(wrong, {}));
    expect(answer).toEqual(failing);
    expect(said[0]).toContain('The answer of GET /api/one breaks its contract');
  });
  it('that says more fails', async () => {
    const { answer, said } = await logged(() =>
      ask(
        serve(one, () => Response.json({ n: 1, secret: 2 })),
        {},
      ),
    );
    expect(answer).toEqual(failing);
    expect(said).toEqual(['The answer of GET /api/one says more than its contract: {"n":1,"secret":2}']);
  });
  it('in lines is held line by line, however they are cut', async () => {
    const cut = serve(lines, () => stream('{"n":1}\n{"n"', ':2}\n', '{"failed":"It ended."}\n'));
    expect((await ask(cut, {})).text).toBe('{"n":1}\n{"n":2}\n{"failed":"It ended."}\n');
    await expect(
      ask(
        serve(lines, () => stream('{"n":1}\n', '{"n":"2"}\n')),
        {},
      ),
    ).rejects.toThrow('breaks its contract');
  });
});

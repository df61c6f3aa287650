import { createServer, request, type IncomingHttpHeaders } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Addresses, setupFrom } from '@/server/http/addresses';
import { safeTarget, SignIn } from '@/server/accounts/sign-in';
import { workbenchListener } from './workbench';

const secret = 'a long enough secret';
const token = 'abcdefghijklmnopqrstuvwxyz012345';
let port = 0;
let server: ReturnType<typeof createServer>;
beforeAll(async () => {
  let listener: ReturnType<typeof workbenchListener> | null = null;
  server = createServer((asked, response) => listener?.(asked, response));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  port = (server.address() as AddressInfo).port;
  const addresses = new Addresses(setupFrom({}, { port, sitePort: 4171, draftPort: 4172 }));
  // What Next would answer: who it is told that asks.
  const next = async (asked: { headers: IncomingHttpHeaders; url?: string }, response: { end(text: string): void }) =>
    response.end(`${asked.url} for ${String(asked.headers['x-last-author'] ?? 'nobody')}`);
  listener = workbenchListener(next as never, { addresses, token, development: false, signIn: new SignIn(secret) });
});
afterAll(() => server.close());

interface Answer {
  status: number;
  headers: IncomingHttpHeaders;
  text: string;
}
function ask(path: string, method = 'GET', headers: Record<string, string> = {}, body = ''): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const asked = request({ port, host: '127.0.0.1', path, method, headers }, (answer) => {
      let text = '';
      answer.setEncoding('utf8').on('data', (part: string) => (text += part));
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, text }));
    });
    asked.on('error', reject).end(body);
  });
}
const form = () => ({ Origin: `http://127.0.0.1:${port}`, 'Content-Type': 'application/x-www-form-urlencoded' });
const signed = async (): Promise<string> => {
  const { headers } = await ask(
    '/sign-in',
    'POST',
    form(),
    `name=Robin&secret=${encodeURIComponent(secret)}&to=/theme`,
  );
  return headers['set-cookie']?.[0]?.split(';')[0] ?? '';
};

describe('a workbench that others can reach asks who is there', () => {
  it('shows nothing but the way in, and answers no data', async () => {
    const [screen, data, write, script] = await Promise.all([
      ask('/theme?draft=spring'),
      ask('/api/drafts'),
      ask('/api/drafts/spring/file', 'PUT', { ...form(), 'X-Last-Token': token }),
      ask('/_next/static/x.js'),
    ]);
    expect([screen.status, screen.text.includes('name="to" value="/theme?draft=spring"')]).toEqual([200, true]);
    expect(screen.headers['content-security-policy']).toContain("frame-ancestors 'none'");
    expect([data.status, write.status, script.status]).toEqual([401, 401, 401]);
  });
  it('lets in who knows the secret, and says of each change who made it', async () => {
    const { status, headers } = await ask(
      '/sign-in',
      'POST',
      form(),
      `name=Robin&secret=${encodeURIComponent(secret)}&to=/theme`,
    );
    expect([status, headers.location, headers['set-cookie']?.[0]]).toEqual([
      303,
      '/theme',
      expect.stringMatching(/^last_session=[\w-]+\.[\w-]+; Max-Age=43200; Path=\/; HttpOnly; SameSite=Strict$/),
    ]);
    const Cookie = await signed();
    expect((await ask('/api/drafts', 'GET', { Cookie })).text).toBe('/api/drafts for Robin');
    // A name that the request gives itself is not believed.
    const write = { ...form(), Cookie, 'X-Last-Token': token, 'X-Last-Author': 'Kim' };
    expect((await ask('/api/x', 'PUT', write)).text).toBe('/api/x for Robin');
    expect((await ask('/api/x', 'PUT', { ...form(), Cookie })).status).toBe(403);
    expect((await ask('/sign-out', 'GET', { Cookie })).headers['set-cookie']?.[0]).toContain('Max-Age=0');
  });
  it('does not let in who does not', async () => {
    const wrong = await ask('/sign-in', 'POST', form(), 'name=Robin&secret=guess');
    expect([wrong.status, wrong.headers['set-cookie'], wrong.text.includes('That is not the secret.')]).toEqual([
      403,
      undefined,
      true,
    ]);
    const elsewhere = { ...form(), Origin: 'http://spring.localhost:4171' };
    expect((await ask('/sign-in', 'POST', elsewhere, `secret=${encodeURIComponent(secret)}`)).status).toBe(403);
    expect((await ask('/sign-in', 'POST', form(), `name=${'x'.repeat(5000)}`)).status).toBe(413);
    const Cookie = await signed();
    const table = [Cookie.slice(0, -1), Cookie.replace('.', 'x.'), 'last_session=.', 'last_session=a.b', `x${Cookie}`];
    for (const one of table)
      expect([one, (await ask('/api/drafts', 'GET', { Cookie: one })).status]).toEqual([one, 401]);
  });
});

describe('a session', () => {
  const hour = 3_600_000;
  it('ends with its time, or with the secret; a clock that is put back ends none', () => {
    const one = new SignIn(secret);
    const opened = one.open('Robin', secret, 100 * hour) as { cookie: string };
    const at = (time: number, by = one) => by.sessionOf(opened.cookie, time)?.name ?? null;
    expect([
      at(100 * hour),
      at(111 * hour),
      at(99 * hour),
      at(113 * hour),
      at(100 * hour, new SignIn('another secret')),
    ]).toEqual(['Robin', 'Robin', 'Robin', null, null]);
  });
  it('is not found by guessing: after twenty wrong secrets in a minute nothing is looked at', () => {
    const one = new SignIn(secret);
    for (let n = 0; n < 20; n++) expect(one.open('x', `guess ${n}`, n)).toBe('wrong');
    expect([one.open('x', secret, 30_000), typeof one.open('x', secret, 61_000)]).toEqual(['slow', 'object']);
  });
  it('over HTTPS is sent over HTTPS only', () => {
    const one = new SignIn(secret, { secure: true });
    const { cookie } = one.open('Robin', secret, 0) as { cookie: string };
    expect(cookie).toMatch(/^__Host-last_session=.*; Path=\/; .*Secure; SameSite=Strict$/);
    expect(one.sessionOf(cookie, 1)).toEqual({ name: 'Robin' });
  });
  const targets: [given: string | null, to: string][] = [
    ['/theme?draft=x', '/theme?draft=x'],
    ['//evil.example', '/bench'],
    ['/\\evil.example', '/bench'],
    ['https://evil.example', '/bench'],
    [null, '/bench'],
  ];
  for (const [given, to] of targets) it(`leads to ${to} from ${given}`, () => expect(safeTarget(given)).toBe(to));
});

import { createServer, request, type IncomingHttpHeaders } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Door, People, safeTarget } from '@/server/accounts';
import { Addresses, setupFrom, whoHeader } from '@/server/http';
import { Shop } from '@/server/shop';
import { workbenchListener } from './workbench';

const token = 'abcdefghijklmnopqrstuvwxyz012345';
const password = 'three quiet lamps';
let port = 0;
let server: ReturnType<typeof createServer>;
let time = Date.parse('2026-11-29T12:00:00Z');
const shop = new Shop(':memory:');
const people = new People(shop.sql, () => time);
const door = new Door(people);
beforeAll(async () => {
  let listener: ReturnType<typeof workbenchListener> | null = null;
  server = createServer((asked, response) => listener?.(asked, response));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  port = (server.address() as AddressInfo).port;
  const addresses = new Addresses(setupFrom({}, { port, sitePort: 4171, draftPort: 4172 }));
  // What Next would answer: who it is told that asks.
  const next = async (asked: { headers: IncomingHttpHeaders; url?: string }, response: { end(text: string): void }) => {
    const told = asked.headers[whoHeader];
    const who = told ? (JSON.parse(Buffer.from(String(told), 'base64url').toString()) as { role: string }) : null;
    response.end(`${asked.url} for ${String(asked.headers['x-last-author'] ?? 'nobody')}, ${who?.role ?? 'no role'}`);
  };
  listener = workbenchListener(next as never, { addresses, token, development: false, door });
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
const send = (path: string, given: Record<string, string>, headers: Record<string, string> = {}) =>
  ask(path, 'POST', { ...form(), ...headers }, new URLSearchParams(given).toString());
const cookieOf = ({ headers }: Answer): string =>
  (headers['set-cookie'] ?? []).map((one) => one.split(';')[0]).join('; ');
const signedIn = async (name: string): Promise<string> =>
  cookieOf(await send('/sign-in', { name, password, to: '/theme' }));

describe('a workbench that others can reach, before anyone has an account', () => {
  it('shows the way to the first owner alone, and answers no data', async () => {
    const [screen, data, write] = await Promise.all([
      ask('/theme?draft=spring'),
      ask('/api/drafts'),
      ask('/api/drafts/spring/file', 'PUT', { ...form(), 'X-Last-Token': token }),
    ]);
    expect([screen.status, screen.text.includes('Code from the console')]).toEqual([200, true]);
    expect([data.status, write.status]).toEqual([401, 401]);
  });
  it('makes the owner for who reads the console, once', async () => {
    const given = { code: 'guess', name: 'robin', called: 'Robin', password };
    expect((await send('/first-run', given)).text).toContain('That is not the code');
    expect((await send('/first-run', { ...given, code: door.firstRun.code, password: 'short' })).text).toContain(
      'at least 12 characters',
    );
    const made = await send('/first-run', { ...given, code: door.firstRun.code });
    expect([made.status, made.headers.location]).toEqual([303, '/bench']);
    expect((await ask('/api/drafts', 'GET', { Cookie: cookieOf(made) })).text).toBe('/api/drafts for Robin, owner');
    const again = await send('/first-run', { ...given, code: door.firstRun.code, name: 'kim' });
    expect([again.status, again.headers['set-cookie']]).toEqual([200, undefined]);
    expect(people.accounts.list().map(({ name, role }) => [name, role])).toEqual([['robin', 'owner']]);
  });
});

describe('a workbench that others can reach asks who is there', () => {
  it('shows nothing but the way in', async () => {
    const [screen, script] = await Promise.all([ask('/theme?draft=spring'), ask('/_next/static/x.js')]);
    expect([screen.status, screen.text.includes('name="to" value="/theme?draft=spring"')]).toEqual([200, true]);
    expect(screen.headers['content-security-policy']).toContain("frame-ancestors 'none'");
    expect(script.status).toBe(401);
  });
  it('lets in who knows the password, and says of each change who made it', async () => {
    const { status, headers } = await send('/sign-in', { name: 'Robin', password, to: '/theme' });
    expect([status, headers.location, headers['set-cookie']?.[0]]).toEqual([
      303,
      '/theme',
      expect.stringMatching(/^last_session=[\w-]{43}; Max-Age=43200; Path=\/; HttpOnly; SameSite=Strict$/),
    ]);
    const Cookie = await signedIn('robin');
    // Neither a name nor a role that the request gives itself is believed.
    const forged = Buffer.from(JSON.stringify({ role: 'owner', called: 'Kim' })).toString('base64url');
    const write = { ...form(), Cookie, 'X-Last-Token': token, 'X-Last-Author': 'Kim', 'X-Last-Who': forged };
    expect((await ask('/api/x', 'PUT', write)).text).toBe('/api/x for Robin, owner');
    expect((await ask('/api/x', 'GET', { 'X-Last-Who': forged })).status).toBe(401);
    expect((await ask('/api/x', 'PUT', { ...form(), Cookie })).status).toBe(403);
  });
  it('does not let in who does not', async () => {
    for (const name of ['robin', 'nobody']) {
      const wrong = await send('/sign-in', { name, password: 'guess' });
      expect([name, wrong.status, wrong.headers['set-cookie'], /do not go together/.test(wrong.text)]).toEqual([
        ...[name, 403, undefined, true],
      ]);
    }
    const elsewhere = { Origin: 'http://spring.localhost:4171' };
    expect((await send('/sign-in', { name: 'robin', password }, elsewhere)).status).toBe(403);
    expect((await send('/sign-in', { name: 'x'.repeat(5000) })).status).toBe(413);
    const Cookie = (await signedIn('robin')).split(';')[0] as string;
    const table = [Cookie.slice(0, -1), Cookie.replace('=', '=x'), 'last_session=.', 'last_session=', `x${Cookie}`];
    for (const one of table)
      expect([one, (await ask('/api/drafts', 'GET', { Cookie: one })).status]).toEqual([one, 401]);
  });
  it('ends a session when one signs out, though its cookie was stolen before', async () => {
    const Cookie = await signedIn('robin');
    expect((await ask('/api/drafts', 'GET', { Cookie })).status).toBe(200);
    // A link of another site cannot sign anyone out.
    await ask('/sign-out', 'GET', { Cookie });
    expect((await ask('/api/drafts', 'GET', { Cookie })).status).toBe(200);
    expect((await send('/sign-out', {}, { Cookie })).headers['set-cookie']?.[0]).toContain('Max-Age=0');
    expect((await ask('/api/drafts', 'GET', { Cookie })).status).toBe(401);
  });
  it('lets programs in by a token, with what it is bound to, and never a page', async () => {
    const { token: bearer, id } = people.makeToken(1, { name: 'feed', rights: ['goods'], days: 1 });
    const headers = { Authorization: `Bearer ${bearer}` };
    expect((await ask('/api/goods/records', 'POST', headers)).text).toBe('/api/goods/records for Robin, owner');
    expect((await ask('/api/drafts', 'GET', { ...headers, 'Sec-Fetch-Site': 'same-origin' })).status).toBe(403);
    expect((await ask('/bench', 'GET', headers)).text).toContain('Sign in');
    expect((await ask('/api/drafts', 'GET', { Authorization: `Bearer ${bearer.slice(0, -1)}` })).status).toBe(401);
    // Another authorization is none: what comes with a session is held to origin and token.
    const Cookie = await signedIn('robin');
    for (const Authorization of ['Basic cm9iaW46eA==', 'Bearer', `Bearer ${bearer} x`]) {
      const write = await ask('/api/x', 'PUT', { Cookie, Authorization });
      expect([Authorization, write.status]).toEqual([Authorization, 403]);
      expect((await ask('/api/x', 'GET', { Authorization })).status).toBe(401);
    }
    // Nor does a session stand in for a token that holds no more.
    const wrong = { Cookie, Authorization: 'Bearer last_none' };
    expect((await ask('/api/x', 'PUT', wrong)).status).toBe(401);
    people.endToken(id, 1);
    expect((await ask('/api/drafts', 'GET', headers)).status).toBe(401);
  });
  it('lets a one-time link be used once, in its time', async () => {
    const { link } = people.invite({ name: 'kim', called: 'Kim', role: 'staff' }, 'Robin');
    const secret = link.path.split('link=')[1] as string;
    expect((await ask(link.path)).text).toContain('Come in, Kim');
    expect((await send('/come-in', { link: secret, password: 'short' })).status).toBe(400);
    const came = await send('/come-in', { link: secret, password });
    expect((await ask('/api/x', 'GET', { Cookie: cookieOf(came) })).text).toBe('/api/x for Kim, staff');
    expect((await send('/come-in', { link: secret, password: 'another long one' })).text).toContain('has ended');
    const late = people.link(people.accounts.named('kim')?.id as number, 'Robin');
    time += 4 * 24 * 3_600_000;
    expect((await ask(late.path)).text).toContain('has ended');
  });
});

describe('where one goes on', () => {
  const targets: [given: string | null, to: string][] = [
    ['/theme?draft=x', '/theme?draft=x'],
    ['//evil.example', '/bench'],
    ['/\\evil.example', '/bench'],
    ['https://evil.example', '/bench'],
    [null, '/bench'],
  ];
  for (const [given, to] of targets) it(`leads to ${to} from ${given}`, () => expect(safeTarget(given)).toBe(to));
});

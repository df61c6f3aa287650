import { hashRaw } from '@node-rs/argon2';
import { describe, expect, it } from 'vitest';
import { Addresses, setupFrom } from '@/server/http';
import { Shop } from '@/server/shop';
import { ClosedDrafts } from '@/store';
import { Looks } from './look';
import { People } from './people';
import { hashPassword, isPassword, parameters } from './passwords';
import { Patience } from './patience';
import { SignIn } from './sign-in';
import { tooEasy } from './strength';

const password = 'three quiet lamps';
const hour = 3_600_000;

function begun() {
  const clock = { now: Date.parse('2026-11-29T12:00:00Z') };
  const people = new People(new Shop(':memory:').sql, () => clock.now);
  const signIn = new SignIn(people);
  const join = async (name: string, role: 'owner' | 'developer' | 'staff' | 'reader') => {
    const { link, account } = people.invite({ name, called: name, role }, 'test');
    await people.useLink(link.path.split('link=')[1] as string, password);
    return account.id;
  };
  const cookiesOf = (cookies: string[]) => cookies.map((one) => one.split(';')[0]).join('; ');
  const open = (name: string, given = password, cookies = '', from = '') =>
    signIn.open({ name, password: given, from }, cookies);
  const opened = async (name: string) => cookiesOf(((await open(name)) as { cookies: string[] }).cookies);
  return { clock, people, signIn, join, open, opened };
}

describe('passwords', () => {
  // Vectors of the reference implementation (phc-winner-argon2: src/test.c and its README), from memory.
  it.each([
    [
      { memoryCost: 65_536, timeCost: 2, parallelism: 1 },
      '09316115d5cf24ed5a15a31a3ba326e5cf32edc24702987c02b6566f61913cf7',
    ],
    [
      { algorithm: 1, memoryCost: 65_536, timeCost: 2, parallelism: 4, outputLen: 24 },
      '45d7ac72e76f242b20b77b9bf9bf9d5915894e669a24e6c6',
    ],
  ])('are worked out as the reference does: %j', async (options, wanted) => {
    const raw = await hashRaw('password', { ...options, salt: Buffer.from('somesalt') });
    expect(raw.toString('hex')).toBe(wanted);
  });
  it('are kept by argon2id with its parameters, each with a salt of its own', async () => {
    const [one, two] = [await hashPassword(password), await hashPassword(password)];
    const { memoryCost, timeCost, parallelism } = parameters;
    expect(one).toMatch(
      new RegExp(`^\\$argon2id\\$v=19\\$m=${memoryCost},t=${timeCost},p=${parallelism}\\$[^$]{22}\\$`),
    );
    expect(one).not.toBe(two);
    expect([await isPassword(password, one), await isPassword('another', one), await isPassword('', null)]).toEqual([
      ...[true, false, false],
    ]);
    // However a keyboard puts letters together.
    expect(await isPassword('cafe\u0301 lanterns', await hashPassword('caf\u00e9 lanterns'))).toBe(true);
  });
});

describe('a password that is guessed too easily', () => {
  it.each(['passwordpassword', '123456789012', 'qwertyuiopas', 'aaaaaaaaaaaa', 'robinrobinrobin', 'Robin@withyquay'])(
    '%s is not taken',
    (one) => expect(tooEasy(one, ['robin@withyquay', 'Robin'])).toMatch(/tried first/),
  );
  it.each([password, 'correcthorsebatterystaple', 'ein Dutzend Laternen', 'три тихие лампы'])('%s is', (one) =>
    expect(tooEasy(one, ['robin', 'Robin'])).toBeNull(),
  );
});

describe('patience', () => {
  it('makes the next try wait ever longer, to a minute, and shuts nobody out', () => {
    const patience = new Patience();
    let now = 0;
    const waits: number[] = [];
    for (let tries = 0; tries < 14; tries++) {
      waits.push(patience.waitOf('x', now));
      now += patience.waitOf('x', now);
      patience.failed('x', now);
    }
    expect(waits).toEqual([0, 0, 0, 0, 0, 1000, 2000, 4000, 8000, 16_000, 32_000, 60_000, 60_000, 60_000]);
    expect([patience.waitOf('x', now + 60_000), patience.waitOf('y', now)]).toEqual([0, 0]);
    // A clock that is an hour off.
    expect([patience.waitOf('x', now + hour), patience.waitOf('x', now - hour)]).toEqual([0, 60_000]);
    patience.succeeded('x');
    expect(patience.waitOf('x', now)).toBe(0);
  });
  it('remembers 10,000 names, and no more', () => {
    const patience = new Patience();
    for (let name = 0; name < 20_000; name++) for (let tries = 0; tries < 6; tries++) patience.failed(`${name}`, 0);
    expect([patience.waitOf('0', 0), patience.waitOf('19999', 0) > 0]).toEqual([0, true]);
  });
});

describe('signing in', () => {
  it('waits after failures, but not on a device that was known before', async () => {
    const { join, open, opened, clock } = begun();
    await join('robin', 'owner');
    const known = await opened('robin');
    for (let tries = 0; tries < 5; tries++) expect(await open('ROBIN', `guess ${tries}`)).toBe('wrong');
    expect(await open('robin')).toBe(1000);
    expect(typeof (await open('robin', password, known))).toBe('object');
    clock.now += 1000;
    expect(typeof (await open('robin'))).toBe('object');
  });
  it('waits for an address that tries many names', async () => {
    const { open } = begun();
    const tries: unknown[] = [];
    for (let at = 0; at < 51; at++) tries.push(await open(`name ${at}`, 'guess', '', '10.0.0.9'));
    expect(tries.slice(0, 50).every((one) => one === 'wrong')).toBe(true);
    expect([tries[50], await open('name 99', 'guess', '', '10.0.0.10')]).toEqual([1000, 'wrong']);
  });
  it('opens another session each time, kept as a hash, ended by its time or by doing nothing', async () => {
    const { join, opened, people, signIn, clock } = begun();
    const id = await join('robin', 'owner');
    const [one, two] = [await opened('robin'), await opened('robin')];
    expect(one).not.toBe(two);
    const secret = /last_session=([\w-]+)/.exec(one)?.[1] as string;
    expect(JSON.stringify(people.sql.all('SELECT * FROM session'))).not.toContain(secret);
    const who = (cookie: string) => signIn.who({ cookie })?.called ?? null;
    const start = clock.now;
    clock.now = start - hour;
    expect(who(one)).toBe('robin');
    for (let at = 1; at <= 11; at++) {
      clock.now = start + at * hour;
      expect([at, who(one)]).toEqual([at, 'robin']);
    }
    // The other did nothing for hours.
    expect(who(two)).toBeNull();
    clock.now = start + 12 * hour;
    expect(who(one)).toBeNull();
    expect(people.accounts.list().find((account) => account.id === id)?.sessions).toBe(0);
  });
  it('over HTTPS has cookies that are sent over HTTPS only', () => {
    const { people } = begun();
    const { account } = people.invite({ name: 'robin', called: 'Robin', role: 'owner' }, '');
    for (const cookie of new SignIn(people, { secure: true }).openFor(account.id))
      expect(cookie).toMatch(/^__Host-last_(?:session|known)=.*; Path=\/; HttpOnly; Secure; SameSite=Strict$/);
  });
  it('is written down, a failure once a minute, and no name that nobody has', async () => {
    const { join, open, people, clock } = begun();
    await join('robin', 'owner');
    await open('robin', 'guess');
    await open('robin', 'guess');
    await open('my password, typed into the wrong field', 'x');
    clock.now += 60_000;
    await open('robin', 'guess');
    await open('robin');
    const entries = people.accounts.entries({ by: '', what: '', words: '' }, 9).map(({ what, about }) => [what, about]);
    expect(entries.slice(0, 4)).toEqual([
      ['sign-in', 'robin'],
      ['sign-in failed', 'robin'],
      ['sign-in failed', 'an unknown name'],
      ['sign-in failed', 'robin'],
    ]);
  });
});

describe('people', () => {
  const refusal = (work: () => unknown): string => {
    try {
      work();
      return '';
    } catch (error) {
      return (error as Error).message;
    }
  };
  it('the last owner who can sign in stays one', async () => {
    const { join, people } = begun();
    const one = await join('robin', 'owner');
    // Invited, and not here yet.
    people.invite({ name: 'kim', called: 'kim', role: 'owner' }, '');
    expect(refusal(() => people.remove(one, 'robin'))).toMatch(/only owner who can sign in/);
    expect(refusal(() => people.change(one, { role: 'reader' }, 'robin'))).toMatch(/only owner who can sign in/);
    const two = await join('ash', 'owner');
    // Two who take it from each other: the second is the last.
    people.change(two, { role: 'developer' }, 'robin');
    expect(refusal(() => people.change(one, { role: 'developer' }, 'ash'))).toMatch(/only owner/);
    expect(people.accounts.list().map(({ name, role }) => `${name} ${role}`)).toEqual([
      ...['ash developer', 'kim owner', 'robin owner'],
    ]);
  });
  it('have a role that holds from the next request on, and sessions that end with them', async () => {
    const { join, opened, people, signIn } = begun();
    await join('robin', 'owner');
    const id = await join('kim', 'developer');
    const cookie = await opened('kim');
    people.change(id, { role: 'reader' }, 'robin');
    expect(signIn.who({ cookie })?.role).toBe('reader');
    people.endSessions(id, 'robin');
    expect(signIn.who({ cookie })).toBeNull();
    const again = await opened('kim');
    const { token } = people.makeToken(id, { name: 'feed', rights: ['look'], days: 1 });
    people.remove(id, 'robin');
    expect([signIn.who({ cookie: again }), signIn.who({ authorization: `Bearer ${token}` })]).toEqual([null, null]);
  });
  it('change their password with the one before, which ends their other sessions', async () => {
    const { join, opened, people, signIn } = begun();
    const id = await join('robin', 'owner');
    const [here, there] = [await opened('robin'), await opened('robin')];
    const session = signIn.who({ cookie: here })?.session as string;
    await expect(people.changePassword(id, 'wrong', 'another long one', session)).rejects.toThrow('not your password');
    await people.changePassword(id, password, 'another long one', session);
    expect([signIn.who({ cookie: here })?.name, signIn.who({ cookie: there })]).toEqual(['robin', null]);
  });
  it('have one open link, and are told apart by name whatever its case', async () => {
    const { people } = begun();
    const { account, link } = people.invite({ name: 'Kim', called: 'Kim', role: 'staff' }, '');
    expect(refusal(() => people.invite({ name: 'kim', called: 'Other', role: 'staff' }, ''))).toMatch(/already/);
    const later = people.link(account.id, '');
    const secret = (path: string) => path.split('link=')[1] as string;
    expect(people.linked(secret(link.path))).toBeNull();
    // Two at once: one of them sets it.
    const both = await Promise.all([
      people.useLink(secret(later.path), password),
      people.useLink(secret(later.path), 'another long one'),
    ]);
    expect(both.filter(Boolean)).toHaveLength(1);
  });
});

describe('looking at drafts, on hosts where nobody is known', () => {
  const setup = { port: 4170, sitePort: 4171, draftPort: 4172 };
  const named = {
    LAST_HOST: 'bench.example.org',
    LAST_SHOP_HOST: 'example.org',
    LAST_DRAFT_HOST: '*.drafts.example.org',
    LAST_PROXY: '1',
  };
  const byAddress = { LAST_BIND: '0.0.0.0', LAST_HOST: '192.0.2.7' };
  const begin = (env: Record<string, string>) => {
    const clock = { now: Date.parse('2026-11-29T12:00:00Z') };
    const shop = new Shop(':memory:');
    return { clock, shop, looks: new Looks(shop.sql, new Addresses(setupFrom(env, setup)), () => clock.now) };
  };
  it.each([
    [
      'by names',
      named,
      'spring.drafts.example.org',
      'https://spring.drafts.example.org/product/oil?framed=',
      'https://bench.example.org',
    ],
    [
      'by an address alone',
      byAddress,
      '192.0.2.7:4172',
      'http://192.0.2.7:4172/draft/spring/product/oil?framed=',
      'http://192.0.2.7:4170',
    ],
  ])('goes through the workbench and back, %s', (_, env, host, address, workbench) => {
    const { looks, clock } = begin(env);
    const url = address.slice(address.indexOf('/', 8));
    const ask = (to: string, cookie = '', more = {}) =>
      looks.at({ method: 'GET', url: to, headers: { host, cookie, ...more } });
    const first = ask(url) as { to: string };
    expect(first.to).toBe(`${workbench}/look?${new URLSearchParams({ to: address }).toString()}`);
    const passed = new URL(looks.passTo(address, false) ?? '');
    const back = ask(passed.pathname + passed.search) as { to: string; cookies: string[] };
    expect(back.to).toBe(address);
    const cookie = back.cookies[0]?.split(';')[0] ?? '';
    expect(ask(url, cookie)).toBeNull();
    // What is part of a page is not sent round; a pass that is over, or of another host, is none; nor is a cookie.
    expect([ask(url, '', { 'sec-fetch-dest': 'image' }), ask(url, `${cookie}x`) === null]).toEqual(['no', false]);
    expect(looks.at({ method: 'GET', url: passed.pathname + passed.search, headers: { host: `x${host}` } })).toBe('no');
    clock.now += 61_000;
    expect(ask(passed.pathname + passed.search)).toBe('no');
    expect(ask(url, cookie)).toBeNull();
    clock.now += 12 * hour;
    expect(ask(url, cookie)).not.toBeNull();
  });
  it.each([
    ['by names', named, 'spring.drafts.example.org', 'https://spring.drafts.example.org/product/oil'],
    ['by an address alone', byAddress, '192.0.2.7:4172', 'http://192.0.2.7:4172/draft/spring/product/oil'],
  ])('of a draft that is kept to developers is for them alone, %s', (_, env, host, address) => {
    const { looks, shop } = begin(env);
    const id = shop.themes.addDraft('spring', 'Spring', [], '2026-11-29T12:00:00Z', '');
    const looksWith = (pass: string) => {
      const to = new URL(pass);
      const ask = (url: string, cookie = '') => looks.at({ method: 'GET', url, headers: { host, cookie } });
      const way = ask(to.pathname + to.search) as { cookies: string[] };
      return ask(new URL(address).pathname, way.cookies[0]?.split(';')[0]);
    };
    const [staff, developer] = [looks.passTo(address, false) ?? '', looks.passTo(address, true) ?? ''];
    expect([looksWith(staff), looksWith(developer)]).toEqual([null, null]);
    new ClosedDrafts(shop.sql).set(id, true);
    // A pass from before, and what came of it, is not enough any more.
    expect([looksWith(staff), looks.passTo(address, false)]).toEqual([{ to: expect.any(String), cookies: [] }, null]);
    expect(looksWith(developer)).toBeNull();
  });
  it.each([
    'https://evil.example/',
    'https://example.org/',
    'http://spring.drafts.example.org/',
    'https://robin@spring.drafts.example.org/',
    'https://bench.example.org/bench',
    'javascript:alert(1)',
    '/product/oil',
    '',
  ])('gives no pass to %s', (to) => expect(begin(named).looks.passTo(to, true)).toBeNull());
});

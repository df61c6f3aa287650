import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { Shop } from '@/server/shop';
import { Provider, providerFrom } from './oidc';
import { People } from './people';
import { StandIn } from './testing/stand-in';

const workbench = 'http://bench.example.org:4170';
const standIn = new StandIn();
beforeAll(() => standIn.start(workbench));
afterAll(() => standIn.stop());

function begun() {
  const people = new People(new Shop(':memory:').sql);
  const settings = {
    ...{ called: 'The stand-in', issuer: standIn.issuer, origin: workbench },
    ...{ clientId: standIn.clientId, clientSecret: standIn.clientSecret },
  };
  const invited = (name: string) => people.invite({ name, called: name, role: 'staff' }, 'test').account;
  return { people, invited, provider: new Provider(settings, people, false) };
}

const cookieOf = (cookies: readonly string[]): string => cookies.map((one) => one.split(';')[0]).join('; ');

/** Goes the way through the provider, as a browser does; where it sends back to. */
async function through(address: string): Promise<string> {
  const jar = new Map<string, string>();
  let at = address;
  for (let steps = 0; steps < 10 && at.startsWith(standIn.issuer); steps++) {
    const cookie = [...jar].map(([name, value]) => `${name}=${value}`).join('; ');
    const answer = await fetch(at, { redirect: 'manual', headers: { cookie } });
    for (const one of answer.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(one) ?? [];
      if (value) jar.set(name, value);
      else jar.delete(name);
    }
    const to = answer.headers.get('location');
    if (!to) throw new Error(`${answer.status} at ${at}: ${await answer.text()}`);
    at = new URL(to, at).href;
  }
  return at;
}

describe('signing in by a provider of OpenID Connect', () => {
  it('leads to the account that was invited, and on to where one wanted', async () => {
    const { provider, invited, people } = begun();
    const account = invited('robin@example.org');
    const way = await provider.begin('/theme?draft=spring');
    const asked = new URL(way.to).searchParams;
    expect([asked.get('response_type'), asked.get('code_challenge_method'), asked.get('scope')]).toEqual([
      ...['code', 'S256', 'openid email'],
    ]);
    const back = await through(way.to);
    expect(back.startsWith(`${workbench}/sign-in/provider/back?`)).toBe(true);
    expect(await provider.back(back, cookieOf(way.cookies))).toEqual({
      account: account.id,
      to: '/theme?draft=spring',
    });
    // The same answer again, as who saw it on its way would send it.
    expect(await provider.back(back, cookieOf(way.cookies))).toMatch(/was used/);
    expect(people.accounts.owners()).toBe(0);
  });

  it.each<[name: string, change: (back: string) => string, cookie: (own: string) => string, says: RegExp]>([
    ['in another browser', (back) => back, () => 'last_provider=other', /another browser/],
    ['without a cookie', (back) => back, () => '', /another browser/],
    ['with another state', (back) => back.replace(/state=[^&]+/, 'state=other'), (own) => own, /another browser/],
    ['with another code', (back) => back.replace(/code=[^&]+/, 'code=other'), (own) => own, /did not say who you are/],
    [
      'of another issuer',
      (back) => back.replace(/iss=[^&]+/, 'iss=http%3A%2F%2Fevil.example'),
      (own) => own,
      /did not say/,
    ],
    ['that is an error', (back) => back.replace(/code=[^&]+/, 'error=access_denied'), (own) => own, /did not say/],
  ])('does not take an answer %s', async (_, change, cookie, says) => {
    const log = vi.spyOn(console, 'error').mockImplementation(() => {});
    const { provider, invited } = begun();
    invited('robin@example.org');
    const way = await provider.begin('/bench');
    const back = await through(way.to);
    expect(await provider.back(change(back), cookie(cookieOf(way.cookies)))).toMatch(says);
    log.mockRestore();
  });

  it('does not take an answer that another sign-in began', async () => {
    const log = vi.spyOn(console, 'error').mockImplementation(() => {});
    const { provider, invited } = begun();
    invited('robin@example.org');
    const [mine, theirs] = [await provider.begin('/bench'), await provider.begin('/bench')];
    const code = new URL(await through(theirs.to)).searchParams.get('code') ?? '';
    const back = (await through(mine.to)).replace(/code=[^&]+/, `code=${code}`);
    expect(await provider.back(back, cookieOf(mine.cookies))).toMatch(/did not say who you are/);
    log.mockRestore();
  });

  it('binds an account to one person: who has its address later is somebody else', async () => {
    const { provider, invited } = begun();
    const { id } = invited('robin@example.org');
    const come = async () => {
      const way = await provider.begin('/bench');
      return provider.back(await through(way.to), cookieOf(way.cookies));
    };
    expect(await come()).toMatchObject({ account: id });
    const { subject } = standIn;
    standIn.subject = { ...subject, sub: '2' };
    expect(await come()).toMatch(/nobody has invited you/);
    // The same person with another address is still who they are.
    standIn.subject = { ...subject, email: 'robin@elsewhere.example' };
    expect(await come()).toMatchObject({ account: id });
    standIn.subject = { sub: '3', email: 'robin@example.org', email_verified: false };
    const other = begun();
    other.invited('robin@example.org');
    const way = await other.provider.begin('/bench');
    expect(await other.provider.back(await through(way.to), cookieOf(way.cookies))).toMatch(/nobody has invited you/);
    standIn.subject = subject;
  });

  it('says so where the provider cannot be reached, and asks it again', async () => {
    const { people } = begun();
    const settings = {
      called: 'None',
      issuer: 'http://127.0.0.1:9',
      clientId: 'x',
      clientSecret: 'x',
      origin: workbench,
    };
    const provider = new Provider(settings, people, false);
    await expect(provider.begin('/')).rejects.toThrow();
    await expect(provider.begin('/')).rejects.toThrow();
  });
});

describe('the settings of a provider', () => {
  const whole = { LAST_OIDC_ISSUER: 'https://id.example.org', LAST_OIDC_CLIENT: 'last', LAST_OIDC_SECRET: 's' };
  it('are none, or whole', () => {
    expect(providerFrom({}, workbench)).toBeNull();
    expect(providerFrom(whole, workbench)).toEqual({
      ...{ called: 'id.example.org', issuer: 'https://id.example.org', clientId: 'last', clientSecret: 's' },
      origin: workbench,
    });
    for (const name of Object.keys(whole))
      expect(() => providerFrom({ ...whole, [name]: undefined }, workbench)).toThrow(/are needed/);
  });
});

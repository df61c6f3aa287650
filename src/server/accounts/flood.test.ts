import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Shop } from '@/server/shop';
import { Accounts } from '@/store';
import { People } from './people';
import { SignIn } from './sign-in';

/** Passwords that were looked at: each costs the time that argon2 takes. Here it takes none, so that 10,000 tries are quick. */
const looked = vi.hoisted(() => ({ count: 0 }));
vi.mock('./passwords', async (original) => ({
  ...(await original<object>()),
  isPassword: (given: string) => {
    looked.count++;
    return Promise.resolve(given === 'the right one');
  },
}));

const minute = 60_000;
let clock = { now: 0 };
let people: People;
let signIn: SignIn;
beforeEach(() => {
  clock = { now: Date.parse('2026-11-30T09:00:00Z') };
  people = new People(new Shop(':memory:').sql, () => clock.now);
  people.invite({ name: 'robin', called: 'Robin', role: 'owner' }, 'test');
  signIn = new SignIn(people);
  looked.count = 0;
});

const right = { name: 'robin', password: 'the right one' };
const cookiesOf = (opened: unknown): string =>
  (opened as { cookies: string[] }).cookies.map((one) => one.split(';')[0]).join('; ');
/** 10,000 tries within an hour. */
async function flood(of: (turn: number) => { name: string; from: string }): Promise<void> {
  for (let turn = 0; turn < 10_000; turn++) {
    clock.now += 360;
    await signIn.open({ ...of(turn), password: `guess ${turn}` }, undefined);
  }
}
const failuresLogged = () =>
  new Accounts(people.accounts.sql).entries({ by: '', what: 'sign-in failed', words: '' }, 100_000).length;

describe('10,000 failed sign-ins within an hour', () => {
  it('from one address, of one name: few are looked at, and nobody is shut out', async () => {
    const known = cookiesOf(await signIn.open({ ...right, from: '198.51.100.7' }, undefined));
    looked.count = 0;
    await flood(() => ({ name: 'robin', from: '203.0.113.9' }));
    // Some at once, then one a minute.
    expect(looked.count).toBeLessThan(75);
    expect(failuresLogged()).toBeLessThan(75);
    // On a device that was known before: at once. On another: after a minute at most.
    expect(await signIn.open({ ...right, from: '198.51.100.7' }, known)).toHaveProperty('cookies');
    const wait = await signIn.open({ ...right, from: '198.51.100.8' }, undefined);
    expect(wait).toBeLessThanOrEqual(minute);
    clock.now += minute;
    expect(await signIn.open({ ...right, from: '198.51.100.8' }, undefined)).toHaveProperty('cookies');
  });

  it('from one address, of as many names: few are looked at, and others come in meanwhile', async () => {
    await flood((turn) => ({ name: `name-${turn}`, from: '203.0.113.9' }));
    expect(looked.count).toBeLessThan(120);
    expect(await signIn.open({ ...right, from: '198.51.100.7' }, undefined)).toHaveProperty('cookies');
  });

  it('from as many addresses, of one name: few are looked at', async () => {
    await flood((turn) => ({ name: 'robin', from: `203.0.${turn >> 8}.${turn & 255}` }));
    expect(looked.count).toBeLessThan(75);
    expect(failuresLogged()).toBeLessThan(75);
  });

  it('from as many addresses, of as many names: the log does not fill, and others come in', async () => {
    await flood((turn) => ({ name: `name-${turn}`, from: `203.0.${turn >> 8}.${turn & 255}` }));
    expect(failuresLogged()).toBeLessThanOrEqual(61);
    expect(await signIn.open({ ...right, from: '198.51.100.7' }, undefined)).toHaveProperty('cookies');
  });
});

describe('a clock that is an hour off', () => {
  it('put back: whoever waits does not wait longer, and sessions go on', async () => {
    const cookie = cookiesOf(await signIn.open({ ...right, from: '' }, undefined));
    for (let turn = 0; turn < 8; turn++) await signIn.open({ ...right, password: 'no', from: '' }, undefined);
    clock.now -= 60 * minute;
    expect(await signIn.open({ ...right, from: '' }, undefined)).toBeLessThanOrEqual(minute);
    expect(signIn.who({ cookie })?.name).toBe('robin');
  });

  it('put forward: a session goes on within its idle time, and ends for good after its time', async () => {
    const cookie = cookiesOf(await signIn.open({ ...right, from: '' }, undefined));
    clock.now += 60 * minute;
    expect(signIn.who({ cookie })?.name).toBe('robin');
    clock.now += 24 * 60 * minute;
    expect(signIn.who({ cookie })).toBeNull();
    clock.now -= 24 * 60 * minute;
    expect(signIn.who({ cookie })).toBeNull();
  });
});

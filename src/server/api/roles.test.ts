import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { mayRole, type Right, rightOf, roles, type Role } from '@/contract/roles';
import { endpoints } from '@/contract/endpoints';
import { type Asking, setGuarded, whoHeader, writeWho } from '@/server/http';
import { demoShop } from '@/server/testing/demo-shop';
import { answerCall, calls } from './index';

const global = globalThis as { lastShop?: unknown };
beforeAll(() => {
  global.lastShop = demoShop();
  setGuarded(true);
});
afterAll(() => {
  delete global.lastShop;
  setGuarded(false);
});

/** Names that nothing has: what is asked for does nothing. */
const address = (path: string) =>
  path
    .replace('{draft}', 'none')
    .replace('{removed}', 'none')
    .replace(/\{\w+\}/g, '999');

const asked = (method: string, path: string, who: Asking | null): Promise<Response> =>
  answerCall(
    new Request(`http://127.0.0.1${address(path)}`, {
      method,
      headers: { ...(who ? { [whoHeader]: writeWho(who) } : {}), 'Content-Type': 'application/json' },
      ...(method === 'GET' ? {} : { body: '{}' }),
    }),
  );
const as = (role: Role, rights: Right[] | null = null): Asking => ({
  ...{ account: 1, name: 'kim', called: 'Kim', role, rights, session: '' },
});
const codeOf = async (answer: Response): Promise<string> =>
  answer.ok ? '' : ((await answer.json()) as { code: string }).code;

/** Of each call that the server answers: the right that the table has for it. */
const table = new Map(
  Object.entries(endpoints).flatMap(([resource, of]) =>
    Object.entries(of).map(([name, one]) => [
      `${one.method} ${one.path}`,
      (rightOf as Record<string, Record<string, Right>>)[resource]?.[name],
    ]),
  ),
);

describe('each call that the server answers', () => {
  const routes = calls.map(({ endpoint: { method, path } }) => [method, path] as const);
  it('is in the table, once', () => {
    expect(new Set(routes.map((one) => one.join(' '))).size).toBe(routes.length);
    expect(routes.filter((one) => !table.get(one.join(' ')))).toEqual([]);
  });
  it.each(routes)('%s %s is for those who may, and for nobody else', async (method, path) => {
    const nobody = await asked(method, path, null);
    expect([nobody.status, await codeOf(nobody)]).toEqual([401, 'sign-in']);
    const right = table.get(`${method} ${path}`) as Right;
    for (const role of roles) {
      const answer = await asked(method, path, as(role));
      const refused = (await codeOf(answer)) === 'right';
      expect([role, refused]).toEqual([role, !mayRole(role, right)]);
      // A token that is bound to something else may not, whoever made it.
      const other = await asked(method, path, as(role, right === 'self' ? ['look'] : ['self']));
      expect([role, other.status, await codeOf(other)]).toEqual([role, 403, 'right']);
    }
  });
});

describe('the table', () => {
  it('gives owners all, and each role what the one below it has, but for people', () => {
    const of = (role: Role) => new Set([...table.values()].filter((right) => right && mayRole(role, right)));
    const [owner, developer, staff, reader] = roles.map(of) as [Set<unknown>, Set<unknown>, Set<unknown>, Set<unknown>];
    expect([owner.size, [...developer].every((one) => owner.has(one))]).toEqual([10, true]);
    expect([[...staff].every((one) => developer.has(one)), [...reader].every((one) => staff.has(one))]).toEqual([
      ...[true, true],
    ]);
    expect([staff.has('source'), reader.has('arrange'), developer.has('people')]).toEqual([false, false, false]);
    expect([staff.has('orders'), reader.has('orders')]).toEqual([true, false]);
  });
});

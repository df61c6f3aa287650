import { afterEach, beforeEach, expect, it } from 'vitest';
import type { Role } from '@/contract/roles';
import { Door, People } from '@/server/accounts';
import { setGuarded, setKnowing, whoHeader, writeWho } from '@/server/http';
import { type Shop, stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { answerCall } from './index';

const global = globalThis as { lastShop?: unknown };
let shop: Shop;
let people: People;
let door: Door;
let kim = 0;
beforeEach(() => {
  shop = demoShop();
  global.lastShop = shop;
  people = new People(shop.sql);
  door = new Door(people);
  kim = people.invite({ name: 'kim', called: 'Kim', role: 'developer' }, '').account.id;
  setGuarded(true);
  setKnowing((headers) => door.knows(headers));
});
afterEach(() => {
  delete global.lastShop;
  setGuarded(false);
  setKnowing(null);
});

const text = '<p>x</p>\n';
const own = () => shop.theme(stateOf(shop, 'draft/spring')).theme.layers.at(-1)?.files.get('pieces/stock.html')?.text;

/** Saves a file, with something that happens while its body is on the way. */
async function saving(meanwhile: () => void): Promise<{ status: number; message?: string }> {
  const { token } = people.makeToken(kim, { name: 'feed', rights: ['source'], days: 1 });
  const authorization = `Bearer ${token}`;
  const who = door.knows(new Headers({ authorization }));
  if (!who) return expect.fail('The token is not known.');
  const body = Buffer.from(JSON.stringify({ path: 'pieces/stock.html', text, expected: null }));
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      controller.enqueue(body.subarray(0, 20));
      setTimeout(() => {
        meanwhile();
        controller.enqueue(body.subarray(20));
        controller.close();
      }, 5);
    },
  });
  const answer = await answerCall(
    new Request('http://127.0.0.1/api/drafts/spring/file', {
      ...{ method: 'PUT', body: stream, duplex: 'half' },
      headers: { authorization, [whoHeader]: writeWho(who), 'Content-Type': 'application/json' },
    } as RequestInit),
  );
  return { status: answer.status, ...((await answer.json()) as { message?: string }) };
}

it.each<[string, () => void, number, string | undefined]>([
  ['nothing', () => {}, 200, undefined],
  [
    'its token is ended',
    () => people.accounts.tokens(kim).forEach(({ id }) => people.endToken(id, kim)),
    401,
    'You were signed out while this was being sent: nothing was done. Sign in, and send it again.',
  ],
  [
    'its account has another role',
    () => people.change(kim, { role: 'reader' satisfies Role }, ''),
    403,
    'You became reader while this was being sent: nothing was done. Load the page again.',
  ],
  [
    'its account is removed',
    () => people.remove(kim, ''),
    401,
    'You were signed out while this was being sent: nothing was done. Sign in, and send it again.',
  ],
])('a save during which %s', async (_, meanwhile, status, message) => {
  const answer = await saving(meanwhile);
  expect([answer.status, answer.message]).toEqual([status, message]);
  expect(own()).toBe(status === 200 ? text : undefined);
});

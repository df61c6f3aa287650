import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { ReviewAnswer } from '@/contract/reviews';
import { type Asking, setGuarded, whoHeader, writeWho } from '@/server/http';
import { People } from '@/server/accounts';
import { writeText } from '@/server/drafts';
import { stateOf } from '@/server/shop';
import type { Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { Accounts } from '@/store';
import { answerCall } from './index';

const global = globalThis as { lastShop?: unknown };
let shop: Shop;
beforeEach(() => {
  shop = demoShop();
  global.lastShop = shop;
  setGuarded(true);
  const people = new People(shop.sql);
  for (const [called, role] of [
    ['Robin', 'owner'],
    ['Kim', 'developer'],
    ['Ash', 'staff'],
  ] as const)
    people.invite({ name: called.toLowerCase(), called, role }, '');
});
afterEach(() => {
  delete global.lastShop;
  setGuarded(false);
});

async function ask(called: string, role: Asking['role'], path = '', body: object | null = null) {
  const who: Asking = { account: 1, name: called, called, role, rights: null, session: '' };
  const answer = await answerCall(
    new Request(`http://127.0.0.1/api/drafts/spring/review${path}`, {
      method: body ? 'POST' : 'GET',
      headers: { [whoHeader]: writeWho(who), 'x-last-author': called, 'Content-Type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    }),
  );
  return { status: answer.status, ...((await answer.json()) as ReviewAnswer & { message?: string }) };
}

describe('a draft that is handed over', () => {
  it('is answered once, by who reviews, and says whether it was changed since', async () => {
    expect((await ask('Ash', 'staff')).review).toBeNull();
    const asked = await ask('Ash', 'staff', '', { whom: 'Kim', note: ' Look at Lamps ' });
    expect(asked.review).toMatchObject({
      by: 'Ash',
      whom: 'Kim',
      note: 'Look at Lamps',
      changedSince: false,
      answer: null,
    });
    expect(asked.reviewers).toEqual(['Kim', 'Robin']);
    const id = asked.review?.id;
    expect((await ask('Ash', 'staff', '/answer', { id, answer: 'approved' })).status).toBe(403);
    writeText(shop, stateOf(shop, 'draft/spring'), 'pieces/stock.html', '<p>x</p>', null, 'Ash', undefined);
    expect((await ask('Kim', 'developer')).review?.changedSince).toBe(true);
    const back = await ask('Kim', 'developer', '/answer', {
      id,
      answer: 'given back',
      note: 'The heading is too long',
    });
    expect(back.review).toMatchObject({
      answer: 'given back',
      answeredBy: 'Kim',
      answerNote: 'The heading is too long',
    });
    expect((await ask('Robin', 'owner', '/answer', { id, answer: 'approved' })).message).toMatch(
      /Somebody else has answered/,
    );
    const again = await ask('Ash', 'staff', '', { note: 'Shorter' });
    expect((await ask('Kim', 'developer', '/answer', { id, answer: 'approved' })).message).toMatch(/handed over again/);
    const approved = await ask('Kim', 'developer', '/answer', { id: again.review?.id, answer: 'approved' });
    expect(approved.review).toMatchObject({ answer: 'approved', changedSince: false });
    const log = new Accounts(shop.sql)
      .entries({ by: '', what: '', words: '' }, 4)
      .map(({ by, what }) => `${by} ${what}`);
    expect(log).toEqual(['Kim approved', 'Ash asked for a review', 'Kim given back', 'Ash asked for a review']);
  });
});

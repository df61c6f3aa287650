import { expect, it } from 'vitest';
import { goneAfter, Presence } from './presence';

const here = (window: string, account: number, called: string, file: string | null = null) => ({
  ...{ window, account, called, file, shelf: null },
});

it('lists others with what each window has open, and never oneself', () => {
  let now = 0;
  const presence = new Presence(() => now);
  presence.say(1, here('a', 1, 'Kim', 'product/default.html'));
  presence.say(1, here('b', 2, 'Ash'));
  presence.say(1, here('c', 1, 'Kim', 'shelves.json'));
  presence.say(2, here('d', 3, 'Robin'));
  const named = (draft: number, account: number) =>
    presence.others(draft, account).map(({ called, file }) => [called, file]);
  expect(named(1, 2)).toEqual([
    ['Kim', 'product/default.html'],
    ['Kim', 'shelves.json'],
  ]);
  expect(named(1, 1)).toEqual([['Ash', null]]);
  // Nobody closes somebody else's window.
  presence.leave(1, 'b', 1);
  expect(named(1, 1)).toHaveLength(1);
  presence.leave(1, 'b', 2);
  expect(named(1, 1)).toEqual([]);
  now = goneAfter - 1;
  presence.say(1, here('c', 1, 'Kim', 'shelves.json'));
  now = goneAfter;
  expect(named(1, 2)).toEqual([['Kim', 'shelves.json']]);
});

it('remembers no more windows than it can be made to', () => {
  const presence = new Presence(() => 0);
  for (let at = 0; at < 2000; at++) presence.say(1, here(`w${at}`, 1, 'Kim'));
  expect(presence.others(1, 2)).toHaveLength(500);
});

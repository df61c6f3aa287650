import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { AddComment, CommentsAnswer, HereAnswer } from '@/contract/comments';
import { anchorOf } from '@/core/inspect';
import { writeText } from '@/server/drafts';
import { renameFile } from '@/server/drafts/rename';
import { type Asking, setGuarded, whoHeader, writeWho } from '@/server/http';
import { type Shop, stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { Accounts } from '@/store';
import { answerCall } from './index';

const global = globalThis as { lastShop?: unknown };
let shop: Shop;
beforeEach(() => {
  shop = demoShop();
  global.lastShop = shop;
  setGuarded(true);
});
afterEach(() => {
  delete global.lastShop;
  setGuarded(false);
});

const people = { Kim: [1, 'developer'], Ash: [2, 'staff'], Sam: [3, 'reader'] } as const;

async function ask<Answer = CommentsAnswer>(
  called: keyof typeof people,
  method: string,
  path = 'comments',
  body: object | null = null,
) {
  const [account, role] = people[called];
  const who: Asking = { account, name: called, called, role, rights: null, session: '' };
  const answer = await answerCall(
    new Request(`http://127.0.0.1/api/drafts/spring/${path}`, {
      method,
      headers: { [whoHeader]: writeWho(who), 'x-last-author': called, 'Content-Type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    }),
  );
  return { status: answer.status, ...((await answer.json()) as Answer & { message?: string }) };
}

const draft = () => stateOf(shop, 'draft/spring');
const own = 'pieces/lead-time.html';
const textOf = (path: string): string => {
  const file = shop.theme(draft()).theme.file(path);
  return file?.text ?? '';
};
const hashOf = (path: string): string => shop.theme(draft()).theme.file(path)?.hash ?? '';

/** A comment at a part of a file of the draft. */
const at = (path: string, part: string, text: string): AddComment => {
  const from = textOf(path).indexOf(part);
  expect(from).toBeGreaterThanOrEqual(0);
  return { text, page: '/category/lamps', place: { path, anchor: anchorOf(textOf(path), from, from + part.length) } };
};
const stock = 'pieces/stock.html';
const low = '<p class="stock is-low" data-part="stock"';
const first = ({ comments: [one] }: CommentsAnswer) => one ?? expect.fail('There is no comment.');

describe('a comment at a place of a file', () => {
  it('stays with it while it moves: in the base, in the shop’s copy, changed, renamed, gone and back', async () => {
    const before = textOf(stock);
    const said = first(await ask('Kim', 'POST', 'comments', at(stock, low, 'Say how few')));
    expect(said).toMatchObject({ number: 1, by: 'Kim', page: '/category/lamps', gone: false, done: null, answers: [] });
    expect(said.place).toMatchObject({ file: stock, line: 3, same: true });
    const now = async () => first(await ask('Kim', 'GET')).place;
    const write = (text: string, expected: string | null = hashOf(stock)) =>
      writeText(shop, draft(), stock, text, expected, 'Kim', undefined);
    write(`<!--: more\nlines :-->\n${before}`, null);
    expect(await now()).toMatchObject({ file: stock, layer: 'Withy Quay', line: 5, same: true });
    write(before.replace('is-low', 'is-scarce'));
    expect(await now()).toMatchObject({ line: 3, same: false });
    write(before);
    renameFile(shop, draft(), { path: stock, to: 'pieces/left.html', expected: hashOf(stock) }, 'Kim');
    // The base still has one at the old path, and that is where it was said.
    expect(await now()).toMatchObject({ file: stock, same: true });
  });

  it('goes along where its file gets another name, and says so where its place is gone', async () => {
    const part = textOf(own).slice(0, 40);
    await ask('Kim', 'POST', 'comments', at(own, part, 'In weeks'));
    renameFile(shop, draft(), { path: own, to: 'pieces/weeks.html', expected: hashOf(own) }, 'Kim');
    const now = async () => first(await ask('Kim', 'GET'));
    expect((await now()).place).toMatchObject({ file: 'pieces/weeks.html', line: 1 });
    writeText(shop, draft(), 'pieces/weeks.html', '<p>x</p>\n', hashOf('pieces/weeks.html'), 'Kim', undefined);
    expect(await now()).toMatchObject({ place: null, gone: true, text: 'In weeks' });
  });

  it('reaches staff as a place of the page, without a word of the source, and readers not at all', async () => {
    await ask('Kim', 'POST', 'comments', { ...at(stock, low, 'Say how few'), shows: '<p> stock' });
    const staff = await ask('Ash', 'GET');
    expect(first(staff)).toMatchObject({ text: 'Say how few', shows: '' });
    expect(first(staff).place).toMatchObject({ file: '', line: 0, anchor: null });
    expect(JSON.stringify(staff)).not.toMatch(/stock|data-part/);
    expect((await ask('Sam', 'GET')).status).toBe(403);
    const { message } = await ask('Ash', 'POST', 'comments', at(stock, low, 'More'));
    expect(message).toBe('A staff does not comment on the source.');
  });
});

describe('a comment on a piece of a shelf', () => {
  it('goes by the piece, is answered and done with, and stands in the log', async () => {
    const said = first(
      await ask('Ash', 'POST', 'comments', { text: 'Too loud?', page: '/', placement: 'splicing', shows: 'Splicing' }),
    );
    expect(said).toMatchObject({ placement: 'splicing', shows: 'Splicing', place: null, gone: false });
    const path = `comments/${said.id}`;
    expect(first(await ask('Kim', 'POST', `${path}/answer`, { text: 'No' })).answers).toMatchObject([
      { by: 'Kim', text: 'No' },
    ]);
    expect(first(await ask('Ash', 'PUT', `${path}/done`, { done: true })).done?.by).toBe('Ash');
    expect(first(await ask('Kim', 'PUT', `${path}/done`, { done: false })).done).toBeNull();
    const shelves = textOf('shelves.json').replace('"splicing"', '"other"');
    writeText(shop, draft(), 'shelves.json', shelves, hashOf('shelves.json'), 'Ash', undefined);
    expect(first(await ask('Ash', 'GET')).gone).toBe(true);
    const log = new Accounts(shop.sql).entries({ by: '', what: 'commented', words: '' }, 9);
    expect(log.map(({ by, about }) => `${by}: ${about}`)).toEqual([
      'Kim: Spring fit-out: No',
      'Ash: Spring fit-out: Too loud?',
    ]);
  });

  it('is deleted by who said it, while nobody has answered', async () => {
    const { id } = first(await ask('Ash', 'POST', 'comments', { text: 'Hm', page: '/' }));
    expect((await ask('Kim', 'DELETE', `comments/${id}`)).message).toMatch(/^Ash said this/);
    await ask('Kim', 'POST', `comments/${id}/answer`, { text: 'What?' });
    expect((await ask('Ash', 'DELETE', `comments/${id}`)).message).toMatch(/was answered/);
    const { comments } = await ask('Ash', 'POST', 'comments', { text: 'Another', page: '/' });
    expect((await ask('Ash', 'DELETE', `comments/${comments[1]?.id}`)).comments).toHaveLength(1);
    expect((await ask('Kim', 'POST', 'comments/999/answer', { text: 'x' })).status).toBe(404);
    expect((await ask('Kim', 'POST', 'comments', { text: '  ' })).status).toBe(400);
  });
});

it('tells who else is in the draft, and in which file those who may see it', async () => {
  const here = (called: keyof typeof people, more: object) =>
    ask<HereAnswer>(called, 'POST', 'here', { window: `window-${called}`, file: null, shelf: null, ...more });
  expect((await here('Kim', { file: own })).others).toEqual([]);
  expect((await here('Ash', { shelf: 'Below the price' })).others).toEqual([{ called: 'Kim', at: 'source' }]);
  expect((await here('Kim', { file: own })).others).toEqual([{ called: 'Ash', at: 'Below the price' }]);
  await here('Ash', { open: false });
  expect((await here('Kim', { file: own })).others).toEqual([]);
});

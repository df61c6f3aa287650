import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { FileAnswer } from '@/contract/files';
import { ApiError, type call } from '@/ui/shared';
import { bothOf, FileStore, shelvesFile, type OpenFile } from './open-file';
import { stubBrowser, type MemoryStorage } from './testing/browser';
import { keepUnsaved, readUnsaved } from './unsaved';

const layer = { kind: 'shop' as const, name: 'Withy Quay', version: '' };
const answer = (path: string, text: string, hash: string | null): FileAnswer => ({
  ...{ path, text, hash, layer, below: null, amends: false, problems: [] },
});

/** A request that waits for its answer. */
interface Waiting {
  kind: string;
  path: string;
  text?: string;
  expected?: string | null;
  answer: (with_: unknown) => void;
  fail: (error: Error) => void;
}

let waiting: Waiting[];
let events: string[];
let file: FileStore;
let local: MemoryStorage;
beforeEach(() => {
  vi.useFakeTimers();
  ({ local } = stubBrowser());
  waiting = [];
  events = [];
  const fake = ((one: { method: string; path: string }, given: { path?: string }, body?: { path: string }) =>
    new Promise((resolve, reject) => {
      const kind = `${one.method} ${one.path.split('/').pop()}`;
      waiting.push({ kind, path: given.path ?? body?.path ?? '', ...body, answer: resolve, fail: reject });
    })) as unknown as typeof call;
  file = new FileStore(
    'spring',
    { call: fake, announce: ({ path }) => events.push(`announced ${path}`) },
    { onText: () => events.push('text'), onSaved: (path) => events.push(`saved ${path}`) },
  );
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const settle = () => vi.advanceTimersByTimeAsync(0);
async function next(kind: string): Promise<Waiting> {
  await settle();
  const one = waiting.shift();
  expect(one?.kind).toBe(kind);
  return one as Waiting;
}
async function opened(text = 'one', hash: string | null = 'h1') {
  file.open('a.html', null);
  (await next('GET file')).answer(answer('a.html', text, hash));
  await settle();
}
const now = () => file.now.file;

describe('the open file', () => {
  it('is the one asked for last, whichever answer comes first', async () => {
    file.open('a.html', null);
    const first = await next('GET file');
    file.open('b.html', null);
    (await next('GET file')).answer(answer('b.html', 'B', 'hb'));
    await settle();
    first.answer(answer('a.html', 'A', 'ha'));
    await settle();
    expect(now()).toMatchObject({ path: 'b.html', text: 'B' });
  });

  it('that cannot be had says why, and is had once that is asked for again', async () => {
    file.open('a.html', null);
    (await next('GET file')).fail(new Error('The server does not answer.'));
    await settle();
    expect(file.now).toEqual({ file: null, failure: 'The server does not answer.' });
    void file.load();
    (await next('GET file')).answer(answer('a.html', 'one', 'h1'));
    await settle();
    expect(file.now).toMatchObject({ file: { text: 'one' }, failure: null });
  });

  it('keeps what is typed once typing rests, and when another is opened', async () => {
    await opened();
    file.type('one two');
    expect(file.typed()).toEqual({ path: 'a.html', text: 'one two' });
    expect(readUnsaved('spring', 'a.html')).toBeNull();
    await vi.advanceTimersByTimeAsync(200);
    expect(readUnsaved('spring', 'a.html')).toMatchObject({ text: 'one two', from: 'h1' });
    file.type('one two three');
    file.open('b.html', null);
    expect(readUnsaved('spring', 'a.html')).toMatchObject({ text: 'one two three' });
    (await next('GET file')).answer(answer('b.html', 'B', 'hb'));
    file.open('a.html', null);
    (await next('GET file')).answer(answer('a.html', 'one', 'h1'));
    await settle();
    expect(now()).toMatchObject({ text: 'one two three', conflict: null });
    expect(now()?.restored).not.toBeNull();
  });

  it('keeps what is typed while it is loaded again', async () => {
    await opened();
    void file.load();
    const answered = await next('GET file');
    file.type('one, typed just now');
    answered.answer(answer('a.html', 'one', 'h1'));
    await settle();
    expect(now()).toMatchObject({ text: 'one, typed just now' });
  });

  it('forgets a text that is the saved one again', async () => {
    await opened();
    file.type('two');
    await vi.advanceTimersByTimeAsync(200);
    file.type('one');
    await vi.advanceTimersByTimeAsync(200);
    expect(readUnsaved('spring', 'a.html')).toBeNull();
    expect(file.typed()).toBeNull();
  });

  it('says so when the browser has no room to keep it', async () => {
    await opened();
    local.room = 0;
    file.type('two');
    await vi.advanceTimersByTimeAsync(200);
    expect(now()?.notice).toContain('save it soon');
    expect(now()?.text).toBe('two');
  });

  it('is saved from the hash that it began with; a later text goes once the earlier has arrived', async () => {
    await opened();
    file.type('two');
    const saving = file.save();
    const first = await next('PUT file');
    expect(first).toMatchObject({ text: 'two', expected: 'h1' });
    file.type('three');
    void file.save();
    await settle();
    expect(waiting).toEqual([]);
    first.answer({ hash: 'h2', layer, problems: [] });
    const second = await next('PUT file');
    expect(second).toMatchObject({ text: 'three', expected: 'h2' });
    second.answer({ hash: 'h3', layer, problems: [] });
    await saving;
    expect(now()).toMatchObject({ saving: false, text: 'three', saved: { hash: 'h3', text: 'three' } });
    expect(readUnsaved('spring', 'a.html')).toBeNull();
  });

  it('that was left while it was saved is saved all the same', async () => {
    await opened();
    file.type('two');
    void file.save();
    const saving = await next('PUT file');
    file.open('b.html', null);
    (await next('GET file')).answer(answer('b.html', 'B', 'hb'));
    await settle();
    saving.answer({ hash: 'h2', layer, problems: [] });
    await settle();
    expect(events).toContain('saved a.html');
    expect(readUnsaved('spring', 'a.html')).toBeNull();
    expect(now()).toMatchObject({ path: 'b.html', text: 'B' });
  });

  it.each([
    [
      'is kept',
      new Error('The disk is full.'),
      { notice: expect.stringContaining('Not saved. The disk is full.') as unknown },
    ],
    [
      'that was saved elsewhere meanwhile is held beside the other',
      new ApiError(409, { code: 'changed', message: 'It changed.', now: { text: 'theirs', hash: 'h9' } }),
      { conflict: { text: 'theirs', hash: 'h9', base: 'one', message: 'It changed.' } },
    ],
  ])('that cannot be saved %s', async (_, error, state) => {
    await opened();
    file.type('two');
    void file.save();
    (await next('PUT file')).fail(error);
    await settle();
    expect(now()).toMatchObject({ text: 'two', saving: false, ...state });
    expect(readUnsaved('spring', 'a.html')).toMatchObject({ text: 'two', from: 'h1' });
  });

  it('in conflict is saved over the other only when that is said, or goes on from both', async () => {
    await opened();
    file.type('two');
    void file.look();
    (await next('GET file')).answer(answer('a.html', 'theirs', 'h2'));
    await settle();
    expect(now()?.conflict).toMatchObject({ text: 'theirs', hash: 'h2', base: 'one' });
    await file.save();
    expect(waiting).toEqual([]);
    file.settle('two and theirs');
    expect(now()).toMatchObject({ conflict: null, text: 'two and theirs', saved: { hash: 'h2', text: 'theirs' } });
    void file.save();
    expect(await next('PUT file')).toMatchObject({ text: 'two and theirs', expected: 'h2' });
  });

  describe('of placements', () => {
    const placed = (...ids: string[]) =>
      `${JSON.stringify({ placements: ids.map((id) => ({ id, shelf: 's', piece: `pieces/${id}` })) }, null, 2)}\n`;
    const changed = (text: string, hash: string) =>
      new ApiError(409, { code: 'changed', message: 'It changed.', now: { text, hash } });
    const begun = async (text: string, hash: string | null) => {
      file.open(shelvesFile, null);
      (await next('GET shelves')).answer(answer(shelvesFile, text, hash));
      await settle();
    };
    it('that two saved is put together and saved', async () => {
      await begun(placed('a'), 'h1');
      file.type(placed('a', 'mine'));
      void file.save();
      (await next('PUT shelves')).fail(changed(placed('a', 'theirs'), 'h9'));
      const again = await next('PUT shelves');
      expect(again).toMatchObject({ expected: 'h9', text: placed('a', 'theirs', 'mine') });
      again.answer({ hash: 'h10', layer, problems: [] });
      await settle();
      expect(now()).toMatchObject({ conflict: null, saving: false, text: placed('a', 'theirs', 'mine') });
      expect(readUnsaved('spring', shelvesFile)).toBeNull();
    });
    it('that a shop begins in two windows is put together, whatever the layer below places', async () => {
      await begun(placed('below'), null);
      file.type(placed('mine'));
      void file.look();
      (await next('GET shelves')).answer(answer(shelvesFile, placed('theirs'), 'h2'));
      await settle();
      expect(now()).toMatchObject({ conflict: null, text: placed('theirs', 'mine') });
    });
    it('waits for a choice where both changed the same', async () => {
      await begun(placed('a'), 'h1');
      const shelf = (name: string) => placed('a').replace('"s"', `"${name}"`);
      file.type(shelf('mine'));
      void file.save();
      (await next('PUT shelves')).fail(changed(shelf('theirs'), 'h9'));
      await settle();
      expect(waiting).toEqual([]);
      expect(bothOf(now() as OpenFile)).toEqual({ mine: shelf('mine'), theirs: shelf('theirs'), clashes: ['a'] });
    });
  });

  it('takes over what another window saved where nothing is typed', async () => {
    await opened();
    const { version } = now() ?? {};
    file.heard({ draft: 'spring', path: 'b.html' });
    file.heard({ draft: 'autumn', path: 'a.html' });
    await settle();
    expect(waiting).toEqual([]);
    file.heard({ draft: 'spring', path: 'a.html' });
    (await next('GET file')).answer(answer('a.html', 'newer', 'h2'));
    await settle();
    expect(now()).toMatchObject({ text: 'newer', conflict: null, version: (version ?? 0) + 1 });
    expect(events).toEqual(['text']);
  });

  it('that was removed elsewhere keeps its text', async () => {
    await opened();
    void file.look();
    (await next('GET file')).fail(new ApiError(404, { code: 'missing', message: 'There is no such file.' }));
    await settle();
    expect(now()).toMatchObject({ text: 'one', conflict: { hash: null, base: 'one' } });
  });

  it('of a layer below is only looked at, and says whether the shop has begun its own', async () => {
    keepUnsaved('spring', 'a.html', { text: 'begun', from: null, at: '2026-11-28T00:00:00.000Z' });
    file.open('a.html', 'Quay');
    (await next('GET file')).answer(answer('a.html', 'below', null));
    await settle();
    expect(now()).toMatchObject({ text: 'below', writable: false, begun: true });
    expect(file.isOpen('a.html')).toBe(false);
  });

  it('leaves what was typed when that is asked for', async () => {
    await opened();
    file.type('two');
    await vi.advanceTimersByTimeAsync(200);
    file.dropTyped();
    (await next('GET file')).answer(answer('a.html', 'one', 'h1'));
    await settle();
    expect(now()).toMatchObject({ text: 'one', restored: null });
    expect(readUnsaved('spring', 'a.html')).toBeNull();
  });
});

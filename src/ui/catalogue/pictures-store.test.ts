import { beforeEach, describe, expect, it } from 'vitest';
import type { Endpoint } from '@/contract/endpoint';
import { goodsEndpoints } from '@/contract/goods';
import { pictureEndpoints, type PictureOutcome } from '@/contract/pictures';
import { pastedFiles } from './dropped';
import { Pictures } from './pictures-store';

/** A server that knows some pictures, and numbers the changes it makes. */
class FakeServer {
  there = new Map<string, string>();
  asked: [does: string, given: unknown][] = [];
  changes = 0;
  failing: string | null = null;
  /** Called with each picture that comes, before it is answered. */
  onTake: (path: string) => void = () => {};

  pictures = new Pictures({
    call: ((endpoint: Endpoint, given: unknown, body: { paths: string[] }) => {
      this.asked.push([endpoint.does, body]);
      body.paths.forEach((path) => this.there.delete(path));
      return Promise.resolve({ change: ++this.changes, removed: body.paths.length });
    }) as never,
    callForLines: (async (
      endpoint: Endpoint,
      given: { path: string; replace: string; change?: number },
      body: string,
      heard: (line: { outcome?: PictureOutcome; change?: number | null }) => void,
      signal: AbortSignal,
    ) => {
      this.asked.push([endpoint.does, given]);
      if (endpoint !== (pictureEndpoints.take as Endpoint)) return;
      this.onTake(given.path);
      signal.throwIfAborted();
      if (given.path === this.failing) throw new Error('The server does not answer.');
      await Promise.resolve();
      const before = this.there.get(given.path);
      const outcome = (what: PictureOutcome['what'], why = '', copyOf: string | null = null) =>
        heard({ outcome: { path: given.path, what, why, copyOf } });
      if (body === 'broken') outcome('left', 'it is broken');
      else if (before === body) outcome('same');
      else if (before !== undefined && given.replace === 'no') outcome('there');
      else {
        const [copy = null] = [...this.there].find(([, bytes]) => bytes === body) ?? [];
        this.there.set(given.path, body);
        outcome(before === undefined ? 'added' : 'replaced', '', copy);
        heard({ change: given.change ?? ++this.changes });
        return;
      }
      heard({ change: given.change ?? null });
    }) as never,
    messageOf: (error) => (error as Error).message,
    changed: () => this.refreshed++,
  });
  refreshed = 0;

  take(files: Record<string, string>) {
    return this.pictures.take(Object.entries(files).map(([name, file]) => ({ name, file: file as unknown as Blob })));
  }
  get state() {
    return this.pictures.state.getState();
  }
}

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
});

describe('pictures that are brought in', () => {
  it('are one change, and what came of each is counted', async () => {
    server.there.set('old.png', 'o');
    await server.take({ 'a.png': '1', 'old.png': 'o', 'b.png': 'broken', 'c.png': '1' });
    expect(server.state).toMatchObject({
      busy: null,
      failed: null,
      asked: null,
      came: { added: 2, same: 1, replaced: 0, left: [{ path: 'b.png' }], copies: [{ path: 'c.png' }], change: 1 },
    });
    expect([server.changes, server.refreshed]).toEqual([1, 1]);
  });

  it('take no other picture’s place before that is said, and then as part of the same change', async () => {
    server.there.set('a.png', 'old');
    await server.take({ 'a.png': 'new', 'b.png': '2' });
    expect(server.state.asked?.paths).toEqual(['a.png']);
    expect(server.there.get('a.png')).toBe('old');
    await server.pictures.answer(true);
    expect([server.there.get('a.png'), server.state.asked]).toEqual(['new', null]);
    expect(server.state.came).toMatchObject({ added: 1, replaced: 1, change: 1 });
  });

  it('stay away where that is the answer', async () => {
    server.there.set('a.png', 'old');
    await server.take({ 'a.png': 'new' });
    await server.pictures.answer(false);
    expect([server.there.get('a.png'), server.state.asked]).toEqual(['old', null]);
  });

  it('that were taken before a failure, or before it was stopped, are told and can be undone', async () => {
    server.failing = 'b.png';
    await server.take({ 'a.png': '1', 'b.png': '2', 'c.png': '3' });
    expect(server.state).toMatchObject({ failed: 'The server does not answer.', came: { added: 1, change: 1 } });
    server.failing = null;
    server.onTake = (path) => {
      if (path === 'd.png') server.pictures.stop();
    };
    await server.take({ 'c.png': '3', 'd.png': '4' });
    expect(server.state).toMatchObject({ failed: null, busy: null, came: { added: 1, change: 2 } });
    expect(server.there.has('d.png')).toBe(false);
  });
});

it('deleting and bringing in are undone by their change', async () => {
  await server.take({ 'a.png': '1' });
  await server.pictures.remove(['a.png']);
  expect(server.state.came).toMatchObject({ deleted: 1, change: 2 });
  await server.pictures.undo();
  expect(server.asked.at(-1)).toEqual([goodsEndpoints.undo.does, { change: 2, overlapping: 'leave' }]);
  expect(server.state.came).toBeNull();
});

it('what is pasted without a name of its own is called by the time', () => {
  const data = {
    files: [{ name: 'image.png' }, { name: 'image.png' }, { name: 'cup.jpg' }],
  } as unknown as DataTransfer;
  expect(pastedFiles(data, '2026-11-28T10:20:30.000Z').map(({ name }) => name)).toEqual([
    'pasted-20261128102030.png',
    'pasted-20261128102030-2.png',
    'cup.jpg',
  ]);
  expect(pastedFiles(null, '')).toEqual([]);
});

import { beforeEach, describe, expect, it } from 'vitest';
import type { Endpoint } from '@/contract/endpoint';
import { pictureEndpoints } from '@/contract/pictures';
import { recordEndpoints } from '@/contract/records';
import { RecordStore, type Draft, type Fields } from './record-store';

/** A server with one product, which answers as it is told. */
class FakeServer {
  record: Fields = { slug: 'fern', name: 'Fern', fields: { water: '2' } };
  asked: [endpoint: Endpoint, body: Record<string, unknown>][] = [];
  kept: Draft | null = null;
  refusal: { code: string; message: string; left?: string[] } | null = null;
  shown: string[] = [];
  loads = 0;
  changed = 0;
  renamed: string | null = null;
  #pages = 0;

  store = (kept: Draft | null = null) => {
    const store = new RecordStore(
      'product',
      'fern',
      { draft: 'spring', origin: 'http://spring.localhost', address: '/product/fern' },
      {
        call: ((endpoint: Endpoint, _: unknown, body: Record<string, unknown>) => {
          this.asked.push([endpoint, body]);
          if (endpoint === (recordEndpoints.record as Endpoint))
            return Promise.resolve({ record: this.record, locales: ['en'] });
          if (this.refusal) return Promise.reject(new Error(this.refusal.message));
          if (endpoint === (recordEndpoints.page as Endpoint))
            return Promise.resolve({
              page: { template: 'product/default' },
              html: '<p>',
              shown: `page ${++this.#pages}`,
            });
          const [change] = body.changes as { after: Fields }[];
          this.record = { ...this.record, ...change?.after };
          return Promise.resolve({ change: 5, records: [{ kind: 'product', slug: 'fern', record: this.record }] });
        }) as never,
        callForLines: ((
          endpoint: Endpoint,
          given: Record<string, unknown>,
          _: unknown,
          heard: (line: unknown) => void,
        ) => {
          this.asked.push([endpoint, given]);
          const path = String(given.path);
          if (path.includes('broken'))
            heard({ outcome: { path, what: 'left', why: 'It is no picture', copyOf: null } });
          else if (path === 'fern/taken.png') heard({ outcome: { path, what: 'there', why: '', copyOf: null } });
          else heard({ change: 12, outcome: { path, what: 'added', why: '', copyOf: null } });
          return Promise.resolve();
        }) as never,
        messageOf: (error) => (error as Error).message,
        refusalOf: () => this.refusal as never,
        changed: () => void this.changed++,
        keep: (_, draft) => (this.kept = draft),
        kept: () => kept,
        renamed: (slug) => (this.renamed = slug),
      },
    );
    store.attach({ show: (__, shown) => void this.shown.push(shown), reload: () => void this.loads++ });
    return store;
  };
}

let server: FakeServer;
let store: RecordStore;
const state = () => store.state.getState();
const saves = () =>
  server.asked.filter(([endpoint]) => endpoint === (recordEndpoints.save as Endpoint)).map(([, body]) => body);
const pages = () =>
  server.asked.filter(([endpoint]) => endpoint === (recordEndpoints.page as Endpoint)).map(([, body]) => body);
const settled = () => new Promise((resolve) => setTimeout(resolve, 120));

beforeEach(async () => {
  server = new FakeServer();
  store = server.store();
  await store.open();
});

describe('a record that is edited', () => {
  it('saves what differs alone, and can be undone', async () => {
    store.set({ name: 'Tree fern' });
    expect([store.isEdited, server.kept?.record.name]).toEqual([true, 'Tree fern']);
    await store.save();
    expect(saves()).toMatchObject([
      { changes: [{ slug: 'fern', before: { name: 'Fern' }, after: { name: 'Tree fern' } }], force: false },
    ]);
    expect([store.isEdited, state().saved, server.kept, server.loads, server.changed]).toEqual([false, 5, null, 1, 1]);
    server.record = { ...server.record, name: 'Fern' };
    await store.undo();
    expect([state().record.name, state().saved]).toEqual(['Fern', null]);
  });
  it('keeps what is written while it is saved, as not saved yet', async () => {
    store.set({ name: 'Tree fern' });
    const saving = store.save();
    store.set({ name: 'Tree fern, potted' });
    await saving;
    expect([state().record.name, store.isEdited, state().saving]).toEqual(['Tree fern, potted', true, false]);
    expect([server.record.name, server.kept?.before.name]).toEqual(['Tree fern', 'Tree fern']);
    await store.save();
    expect([server.record.name, store.isEdited]).toEqual(['Tree fern, potted', false]);
  });
  it('is not saved where it is as it was', async () => {
    store.set({ name: 'Moss' });
    store.set({ name: 'Fern' });
    await store.save();
    expect([saves(), server.kept]).toEqual([[], null]);
  });
  it('is there again after a reload', async () => {
    store.set({ name: 'Tree fern' });
    const again = server.store(server.kept);
    await again.open();
    expect([again.state.getState().record.name, again.isEdited]).toEqual(['Tree fern', true]);
  });
  it('takes in what others saved beside it', async () => {
    store.set({ name: 'Tree fern' });
    server.record = { ...server.record, fields: { water: '3' } };
    await store.refresh();
    expect(state().record).toMatchObject({ name: 'Tree fern', fields: { water: '3' } });
    await store.save();
    expect(saves()).toMatchObject([{ changes: [{ before: { name: 'Fern' }, after: { name: 'Tree fern' } }] }]);
  });
  it('asks where another changed the same, and takes theirs or mine', async () => {
    store.set({ name: 'Tree fern', fields: { water: '4' } });
    server.record = { ...server.record, name: 'Bracken' };
    await store.refresh();
    expect(state().record.name).toBe('Tree fern');
    server.refusal = { code: 'overlap', message: 'Someone else', left: ['name of the product “fern”'] };
    await store.save();
    expect(state().overlap).toEqual(['name of the product “fern”']);
    server.refusal = null;
    await store.takeTheirs();
    expect([state().record, state().overlap]).toMatchObject([{ name: 'Bracken', fields: { water: '4' } }, null]);
    store.set({ name: 'Tree fern' });
    await store.save(true);
    expect(saves().at(-1)).toMatchObject({ force: true });
  });
});

it('takes pictures in under its own folder, as one change; a name that is taken gets a number', async () => {
  const file = new Blob(['x']);
  const came = await store.bring([
    { name: 'leaf.png', file },
    { name: 'taken.png', file },
    { name: 'broken.png', file },
  ]);
  expect(came).toEqual({ paths: ['fern/leaf.png', 'fern/taken-2.png'], left: ['broken.png: It is no picture.'] });
  const taken = server.asked.filter(([endpoint]) => endpoint === (pictureEndpoints.take as Endpoint));
  expect(taken.map(([, given]) => given.change)).toEqual([undefined, 12, 12, 12]);
});

describe('its page beside', () => {
  it('is made with what is edited, letters that follow one another together', async () => {
    expect(pages()).toEqual([]);
    store.framed({ view: '1', shown: 'first', address: '/product/fern' });
    await settled();
    for (const name of ['T', 'Tr', 'Tree']) store.set({ name });
    await settled();
    await settled();
    expect(pages().length).toBeLessThanOrEqual(3);
    expect(pages().at(-1)).toMatchObject({ view: '1', changes: [{ after: { name: 'Tree' } }] });
    expect(server.shown.at(-1)).toBe(`page ${server.shown.length}`);
  });
  it('stays where it cannot be made, and the reason is said', async () => {
    store.framed({ view: '1', shown: 'first', address: '/product/fern' });
    await settled();
    server.refusal = { code: 'value', message: 'name of “fern”: too short' };
    store.set({ name: '' });
    await settled();
    expect(state().pageFailed).toBe('name of “fern”: too short');
    server.refusal = null;
    store.drop();
    await settled();
    expect([state().pageFailed, state().record.name]).toEqual([null, 'Fern']);
  });
});

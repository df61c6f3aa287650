import { beforeEach, describe, expect, it } from 'vitest';
import type { Endpoint } from '@/contract/endpoint';
import { goodsEndpoints, type LookAnswer } from '@/contract/goods';
import { Importing } from './import-store';

const look: LookAnswer = {
  upload: '0123456789abcdef',
  name: 'goods.csv',
  bytes: 100,
  table: {
    encoding: 'windows-1252',
    sure: false,
    delimiter: ';',
    mark: ',',
    columns: [
      { heading: 'Preis', target: 'price', by: 'word' },
      { heading: 'UVP', target: 'was_price', by: 'word' },
      { heading: 'Notiz', target: 'attribute:Notiz', by: 'nothing' },
    ],
    sample: [['1', '2', 'x']],
  },
};
const result = {
  counts: [{ kind: 'product', what: 'added' as const, count: 2 }],
  errors: 0,
  warnings: 0,
  issues: [],
  effects: null,
};

/** A server that answers as it is told, and notes what it was asked. */
class FakeServer {
  asked: [does: string, given: unknown, body: unknown][] = [];
  lines: unknown[] = [];
  fails: string | null = null;
  changed = 0;
  /** Resolves when the lines are to end; null: at once. */
  held: Promise<void> | null = null;

  importing = new Importing({
    call: ((endpoint: Endpoint, given: unknown, body: unknown) => {
      this.#note(endpoint, given, body);
      const table = endpoint === (goodsEndpoints.look as Endpoint) ? { ...look.table, encoding: 'utf-8' } : look.table;
      return Promise.resolve({ ...look, table: this.json ? null : table });
    }) as never,
    callForLines: (async (
      endpoint: Endpoint,
      given: unknown,
      body: unknown,
      heard: (line: unknown) => void,
      signal: AbortSignal,
    ) => {
      this.#note(endpoint, given, body);
      for (const line of this.lines) heard(line);
      if (this.held)
        await Promise.race([
          this.held,
          new Promise((_, stop) => signal.addEventListener('abort', () => stop(new Error('aborted')))),
        ]);
    }) as never,
    messageOf: (error) => (error as Error).message,
    changed: () => this.changed++,
  });
  json = false;

  #note(endpoint: Endpoint, given: unknown, body: unknown): void {
    this.asked.push([endpoint.path, given, body]);
    if (this.fails) throw new Error(this.fails);
  }
}

let server: FakeServer;
const state = () => server.importing.state.getState();
const file = new File(['x'], 'goods.csv');
beforeEach(() => {
  server = new FakeServer();
});

describe('an import, step by step', () => {
  it('a table is looked at, and nothing more is asked', async () => {
    await server.importing.choose(file);
    expect(server.asked).toEqual([['/api/goods/files', { name: 'goods.csv' }, file]]);
    expect([state().busy, state().columns]).toEqual([
      null,
      { Preis: 'price', UVP: 'was_price', Notiz: 'attribute:Notiz' },
    ]);
  });
  it('a catalogue file goes on to its dry run by itself', async () => {
    server.json = true;
    server.lines = [{ done: 3, result }];
    await server.importing.choose(file);
    expect(server.asked.map(([path]) => path)).toEqual(['/api/goods/files', '/api/goods/files/{upload}/dry-run']);
    expect(state().result).toEqual(result);
  });
  it('the dry run is of the columns as they were corrected; a target goes from one column to another', async () => {
    await server.importing.choose(file);
    server.importing.take('Notiz', 'was_price');
    server.importing.take('Preis', null);
    server.lines = [{ done: 1 }, { done: 2, result }];
    await server.importing.dryRun();
    expect(server.asked.at(-1)).toEqual([
      '/api/goods/files/{upload}/dry-run',
      { upload: look.upload },
      { mode: 'merge', columns: { Preis: null, UVP: null, Notiz: 'was_price' } },
    ]);
    expect(state().result).toEqual(result);
  });
  it('whatever is changed afterwards asks for another dry run', async () => {
    await server.importing.choose(file);
    server.lines = [{ done: 1, result }];
    for (const change of [
      () => server.importing.setMode('replace'),
      () => server.importing.take('Preis', null),
      () => server.importing.back(),
      () => server.importing.read({ mark: '.' }),
    ]) {
      await server.importing.dryRun();
      expect(state().result).toEqual(result);
      await change();
      expect(state().result).toBeNull();
    }
  });
  it('read in another way, it is looked at again', async () => {
    await server.importing.choose(file);
    await server.importing.read({ encoding: 'utf-8' });
    await server.importing.read({ delimiter: ',' });
    expect(server.asked.slice(1)).toEqual([
      ['/api/goods/files/{upload}', { upload: look.upload, encoding: 'utf-8' }, undefined],
      ['/api/goods/files/{upload}', { upload: look.upload, encoding: 'utf-8', delimiter: ',' }, undefined],
    ]);
    expect(state().look?.table?.encoding).toBe('utf-8');
  });
  it('once imported, the file is put aside, and what was read of goods is read again', async () => {
    await server.importing.choose(file);
    server.lines = [{ done: 5 }, { done: 9, made: { id: 4, records: 9, left: [] } }];
    await server.importing.import();
    expect([state().look, state().made, server.changed]).toEqual([
      null,
      { id: 4, records: 9, left: [], undo: false, name: 'goods.csv' },
      1,
    ]);
    await server.importing.undo(4, 'Import of goods.csv');
    expect([server.asked.at(-1)?.slice(0, 2), state().made?.undo]).toEqual([
      ['/api/goods/changes/{change}/undo', { change: 4, overlapping: 'ask' }],
      true,
    ]);
  });
  it('an undo asks where others changed the same since, and is then done as it is told', async () => {
    const others = ['price of R-1 of the product “rope” was changed since'];
    server.lines = [{ done: 1, asked: others }];
    await server.importing.undo(4, 'Prices');
    expect([state().asked, state().made, server.changed]).toEqual([{ change: 4, name: 'Prices', others }, null, 0]);
    server.importing.keepAsItIs();
    expect(state().asked).toBeNull();
    server.lines = [{ done: 1, made: { id: 5, records: 1, left: [] } }];
    await server.importing.undo(4, 'Prices', 'replace');
    expect([server.asked.at(-1)?.[1], state().made?.undo, server.changed]).toEqual([
      { change: 4, overlapping: 'replace' },
      true,
      1,
    ]);
  });
});

describe('when it goes wrong', () => {
  it('what was refused is said, and the file and its columns stay', async () => {
    await server.importing.choose(file);
    server.importing.take('Notiz', null);
    server.fails = 'The server is gone';
    await server.importing.dryRun();
    expect([state().failed, state().busy, state().columns.Notiz]).toEqual(['The server is gone', null, null]);
    server.fails = null;
    server.lines = [{ done: 1, result }];
    await server.importing.dryRun();
    expect([state().failed, state().result]).toEqual([null, result]);
  });
  it('stopped, it says nothing and leaves the file', async () => {
    await server.importing.choose(file);
    server.lines = [{ done: 7 }];
    server.held = new Promise(() => {});
    const running = server.importing.import();
    expect(state().busy).toEqual({ what: 'import', done: 7 });
    server.importing.stop();
    await running;
    expect([state().busy, state().failed, state().made, state().look?.upload]).toEqual([null, null, null, look.upload]);
  });
  it('put aside, nothing of it is left', async () => {
    await server.importing.choose(file);
    server.importing.leave();
    expect([state().look, state().columns]).toEqual([null, {}]);
    await server.importing.dryRun();
    expect(server.asked).toHaveLength(1);
  });
});

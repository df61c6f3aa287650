import { beforeEach, describe, expect, it } from 'vitest';
import type { Endpoint } from '@/contract/endpoint';
import { goodsEndpoints } from '@/contract/goods';
import { recordEndpoints, type ColumnItem, type TableRowItem } from '@/contract/records';
import { GoodsTableStore } from './table-store';
import type { Unsaved } from './table-rows';

const column = (name: string, sorted = true): ColumnItem => ({
  ...{ column: name, label: name, type: 'text', unit: '', group: 'Product', sorted, fact: null, choices: [] },
});
const columns = ['name', 'price', 'stock', 'tags'].map((name) => column(name));

/** A server with so many products, which answers as it is told. */
class FakeServer {
  asked: [endpoint: Endpoint, body: Record<string, unknown>][] = [];
  kept: readonly Unsaved[] = [];
  total = 250;
  changed = 0;
  refusal: { code: string; message: string; cells?: object[] } | null = null;
  /** What was written, by slug and column. */
  cells = new Map<string, string>();

  row = (at: number): TableRowItem => ({
    slug: `p${at}`,
    name: `Product ${at}`,
    live: true,
    cells: Object.fromEntries(
      columns.map(({ column: name }) => [
        name,
        {
          text: this.cells.get(`p${at} ${name}`) ?? `${name} ${at}`,
          locked: name === 'price' && at === 3 ? 'Its variants differ' : null,
        },
      ]),
    ),
  });

  table = (kept: readonly Unsaved[] = []) =>
    new GoodsTableStore({
      call: ((endpoint: Endpoint, _: unknown, body: Record<string, unknown>) => {
        this.asked.push([endpoint, body]);
        if (this.refusal && endpoint === (recordEndpoints.cells as Endpoint))
          return Promise.reject(new Error(this.refusal.message));
        if (endpoint === (recordEndpoints.table as Endpoint)) {
          const { from, count, columns: asked } = body as { from: number; count: number; columns: string[] };
          const rows = Array.from({ length: Math.max(0, Math.min(count, this.total - from)) }, (__, at) => {
            const row = this.row(from + at);
            return {
              ...row,
              cells: Object.fromEntries(Object.entries(row.cells).filter(([name]) => asked.includes(name))),
            };
          });
          return Promise.resolve({ revision: 1, total: this.total, all: this.total, rows });
        }
        const written = body.cells as { slug: string; column: string; text: string }[];
        for (const one of written) this.cells.set(`${one.slug} ${one.column}`, one.text);
        const slugs = [...new Set(written.map(({ slug }) => slug))];
        return Promise.resolve({
          ...{ change: 7, count: slugs.length, left: [], leftCount: 0 },
          rows: slugs.map((slug) => this.row(Number(slug.slice(1)))),
        });
      }) as never,
      callForLines: ((
        endpoint: Endpoint,
        _: unknown,
        body: Record<string, unknown>,
        heard: (line: unknown) => void,
      ) => {
        this.asked.push([endpoint, body]);
        heard({ done: 3 });
        heard({ done: 9, saved: { change: 8, count: 9, left: [], leftCount: 0, rows: [] } });
        return Promise.resolve();
      }) as never,
      messageOf: (error) => (error as Error).message,
      refusalOf: () => this.refusal as never,
      changed: () => void this.changed++,
      keep: (unsaved) => (this.kept = unsaved),
      kept: () => kept,
    });
}

let server: FakeServer;
let table: GoodsTableStore;
const state = () => table.state.getState();
const settled = () => new Promise((resolve) => setTimeout(resolve, 5));
const written = () =>
  server.asked.filter(([endpoint]) => endpoint === (recordEndpoints.cells as Endpoint)).map(([, body]) => body.cells);
const froms = () =>
  server.asked.filter(([endpoint]) => endpoint === (recordEndpoints.table as Endpoint)).map(([, body]) => body.from);

beforeEach(async () => {
  server = new FakeServer();
  table = server.table();
  table.setColumns(columns, ['name', 'price', 'stock', 'gone']);
  await settled();
});

describe('what the table reads', () => {
  it('its first rows, and others when they come into sight, each once', async () => {
    expect([state().shown, state().total, state().rows.size]).toEqual([['name', 'price', 'stock'], 250, 100]);
    table.need(90, 120);
    table.need(95, 125);
    await settled();
    expect([froms(), state().rows.size]).toEqual([[0, 100], 200]);
  });
  it('from the top again when something else is asked for', async () => {
    table.move({ row: 40, column: 1 });
    table.ask({ search: 'rope', sort: { column: 'name', down: true } });
    await settled();
    expect(server.asked.at(-1)?.[1]).toMatchObject({ search: 'rope', sort: { column: 'name', down: true }, from: 0 });
    expect(state().cursor).toEqual({ row: 0, column: 1 });
  });
  it('stays within what is left', async () => {
    table.move({ row: 240, column: 2 });
    server.total = 12;
    table.reload();
    await settled();
    expect([state().total, state().cursor.row]).toEqual([12, 11]);
  });
});

describe('where one goes', () => {
  it('to the next cell and row, and not past the ends', () => {
    table.move({ row: 0, column: 2 });
    expect([table.next(), state().cursor]).toEqual([true, { row: 1, column: 0 }]);
    table.move({ row: 249, column: 2 });
    expect([table.next(), state().cursor]).toEqual([false, { row: 249, column: 2 }]);
    table.step(5, 5);
    expect(state().cursor).toEqual({ row: 249, column: 2 });
  });
  it('with what is selected between two corners', () => {
    table.move({ row: 5, column: 2 });
    table.step(-3, -1, true);
    expect(table.selected()).toEqual({ top: 2, bottom: 5, left: 1, right: 2 });
    expect(table.block()).toBe('price 2\tstock 2\nprice 3\tstock 3\nprice 4\tstock 4\nprice 5\tstock 5');
  });
});

describe('what is written', () => {
  it('shows at once, is saved, and can be undone', async () => {
    table.move({ row: 2, column: 0 });
    expect([table.edit(), state().editing]).toEqual([null, 'name 2']);
    table.type('Twine');
    const saved = table.commit();
    expect([table.textAt({ row: 2, column: 0 }), state().unsaved.size]).toEqual(['Twine', 1]);
    await saved;
    expect(written()).toEqual([[{ slug: 'p2', column: 'name', was: 'name 2', text: 'Twine' }]]);
    expect([state().unsaved.size, state().saved?.change, server.changed, server.kept]).toEqual([0, 7, 1, []]);
    await table.undo();
    expect([server.asked.at(-2)?.[0].path, state().saved]).toEqual(['/api/goods/changes/{change}/undo', null]);
  });
  it('and undone at once, it is what was just written that is undone', async () => {
    table.move({ row: 4, column: 2 });
    table.edit('12');
    const first = table.commit();
    table.edit('13');
    void table.commit();
    await Promise.all([first, table.undo()]);
    expect(written()).toEqual([
      [{ slug: 'p4', column: 'stock', was: 'stock 4', text: '12' }],
      [{ slug: 'p4', column: 'stock', was: '12', text: '13' }],
    ]);
    expect(server.asked.map(([endpoint]) => endpoint.path).filter((path) => !path.endsWith('table'))).toEqual([
      ...[recordEndpoints.cells.path, recordEndpoints.cells.path],
      goodsEndpoints.undo.path,
    ]);
  });
  it('nothing where nothing is another, and not what is locked', async () => {
    await table.commit('name 0');
    table.move({ row: 3, column: 1 });
    expect([table.edit(), state().editing]).toEqual(['Its variants differ', null]);
    expect(written()).toEqual([]);
  });
  it('a block, from the cell on; one cell fills what is selected', async () => {
    table.move({ row: 10, column: 1 });
    await table.paste([
      ['1', '2'],
      ['3', '4'],
    ]);
    expect(written()[0]).toMatchObject([
      { slug: 'p10', column: 'price', text: '1' },
      { slug: 'p10', column: 'stock', text: '2' },
      { slug: 'p11', column: 'price', text: '3' },
      { slug: 'p11', column: 'stock', text: '4' },
    ]);
    table.move({ row: 20, column: 2 });
    table.step(2, 0, true);
    await table.paste([['9']]);
    expect(written()[1]).toHaveLength(3);
    await table.clear();
    expect(written()[2]).toMatchObject([{ text: '' }, { text: '' }, { text: '' }]);
  });
  it('a block, which is selected at once: what is pressed before it is saved is meant for it', async () => {
    table.move({ row: 10, column: 1 });
    const pasting = table.paste([['1'], ['3']]);
    const clearing = table.clear();
    await Promise.all([pasting, clearing]);
    expect(written()[1]).toMatchObject([
      { slug: 'p10', column: 'price', text: '' },
      { slug: 'p11', column: 'price', text: '' },
    ]);
  });
  it('no block that does not fit, and of one that is long the rows are read first', async () => {
    table.move({ row: 10, column: 2 });
    await table.paste([['1', '2']]);
    expect([written(), state().failed]).toEqual([
      [],
      expect.stringContaining('there are 240 rows and 1 columns') as string,
    ]);
    table.move({ row: 0, column: 2 });
    await table.paste(Array.from({ length: 250 }, () => ['5']));
    expect(written()[0]).toHaveLength(250);
  });
  it('into a cell that has not come yet, as soon as it has', async () => {
    table.show(['name', 'tags']);
    table.move({ row: 2, column: 1 });
    expect([table.edit(), state().editing]).toEqual([null, null]);
    table.edit('r');
    table.type('rope');
    await table.commit();
    expect(written()).toEqual([[{ slug: 'p2', column: 'tags', was: 'tags 2', text: 'rope' }]]);
  });
  it('and not into another row, when the table was sorted before it came', async () => {
    table.show(['name', 'tags']);
    table.move({ row: 2, column: 1 });
    table.edit('rope');
    const done = table.commit();
    table.ask({ sort: { column: 'name', down: true } });
    await done;
    expect([written(), state().failed]).toEqual([[], expect.stringMatching(/^Not written: the table was/)]);
  });
  it('and refused stays with the reason, beyond a reload, until it is saved again or dropped', async () => {
    server.refusal = {
      code: 'cells',
      message: 'One cell cannot be written',
      cells: [{ slug: 'p1', column: 'stock', message: '“x” is not a whole number' }],
    };
    table.move({ row: 1, column: 2 });
    await table.commit('x');
    expect([...state().unsaved.values()]).toEqual([
      { slug: 'p1', column: 'stock', was: 'stock 1', text: 'x', why: '“x” is not a whole number' },
    ]);
    const again = server.table(server.kept);
    expect(again.state.getState().unsaved.get('p1 stock')?.text).toBe('x');
    server.refusal = null;
    await table.retry();
    expect([state().unsaved.size, server.kept]).toEqual([0, []]);
    server.refusal = { code: 'offline', message: 'The server does not answer' };
    await table.commit('y');
    expect([state().failed, [...state().unsaved.values()][0]?.why]).toEqual([
      'The server does not answer',
      'The server does not answer',
    ]);
    table.discard();
    expect([state().unsaved.size, table.textAt({ row: 1, column: 2 })]).toEqual([0, 'x']);
  });
  it('over what another wrote only once that was seen', async () => {
    server.refusal = {
      code: 'cells',
      message: 'Changed',
      cells: [{ slug: 'p1', column: 'stock', message: 'Someone else changed this cell meanwhile', now: '12' }],
    };
    table.move({ row: 1, column: 2 });
    await table.commit('13');
    expect([...state().unsaved.values()][0]).toMatchObject({
      was: '12',
      why: 'Someone else changed this cell meanwhile: it is “12” now',
    });
    server.refusal = null;
    await table.retry();
    expect(written().at(-1)).toEqual([{ slug: 'p1', column: 'stock', was: '12', text: '13' }]);
  });
  it('in many at once, of those that are shown', async () => {
    table.ask({ search: 'rope' });
    await table.bulk({ column: 'tags', action: 'add', text: 'new', slugs: null });
    expect(server.asked.find(([endpoint]) => endpoint === (recordEndpoints.bulk as Endpoint))?.[1]).toMatchObject({
      search: 'rope',
      slugs: null,
      action: 'add',
    });
    expect([state().saved?.count, state().working]).toEqual([9, null]);
  });
});

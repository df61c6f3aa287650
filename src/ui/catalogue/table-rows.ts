import { createStore } from 'zustand/vanilla';
import {
  recordEndpoints,
  type CellsAsk,
  type ColumnItem,
  type SavedAnswer,
  type TableRowItem,
} from '@/contract/records';
import type { Refusal } from '@/contract/shared';
import type { Condition } from '@/core/alternates';
import type { call as callServer, callForLines as callServerForLines } from '@/ui/shared';

/** A place in the table: a row by its number in the order shown, a column by its number among those shown. */
export interface Place {
  row: number;
  column: number;
}

/** A cell that was written and is not saved: what stood there, what is to, and why it is not (null: it is on its way). */
export interface Unsaved {
  slug: string;
  column: string;
  was: string;
  text: string;
  why: string | null;
}

/** What was saved last, and can be undone. */
export interface Saved {
  change: number;
  count: number;
  leftCount: number;
  left: SavedAnswer['left'];
}

export interface TableState {
  columns: readonly ColumnItem[];
  /** Columns that are shown, in their order. */
  shown: readonly string[];
  search: string;
  where: Condition | null;
  sort: CellsAsk['sort'];
  total: number;
  all: number;
  /** Rows that were read, by their numbers. */
  rows: ReadonlyMap<number, TableRowItem>;
  /** Whether anything was read yet; then, why the last reading failed. */
  read: boolean;
  failed: string | null;
  cursor: Place;
  /** The other corner of what is selected. */
  anchor: Place;
  /** What stands in the editor of the cell at the cursor; null: it is not edited. */
  editing: string | null;
  unsaved: ReadonlyMap<string, Unsaved>;
  saved: Saved | null;
  /** How many products a change of many has written. */
  working: number | null;
}

export interface Needs {
  call: typeof callServer;
  callForLines: typeof callServerForLines;
  messageOf(error: unknown): string;
  refusalOf(error: unknown): Refusal | null;
  /** Goods were changed: what else was read of them is read again. */
  changed(): void;
  /** Where what is not saved is kept beyond a reload. */
  keep(unsaved: readonly Unsaved[]): void;
  kept(): readonly Unsaved[];
}

/** Rows that are read at once. */
const pageSize = 100;
export const usualColumns = ['name', 'price', 'stock', 'brand', 'tags', 'pictures'];

export const cellKey = (slug: string, column: string): string => `${slug} ${column}`;

const empty: Omit<TableState, 'unsaved'> = {
  ...{ columns: [], shown: usualColumns, search: '', where: null, sort: null, total: 0, all: 0, rows: new Map() },
  ...{ read: false, failed: null, cursor: { row: 0, column: 0 }, anchor: { row: 0, column: 0 } },
  ...{ editing: null, saved: null, working: null },
};

/** What is asked for of the table of products, and the rows that were read. */
export class TableRows {
  readonly state = createStore<TableState>(() => ({ ...empty, unsaved: new Map() }));
  /** Goes up when other rows are asked for: answers to what was asked before are dropped. */
  #asked = 0;
  /** Pages of rows that are on their way. */
  readonly #coming = new Map<number, Promise<void>>();

  constructor(readonly needs: Needs) {}

  /** Takes the columns that there are, and shows some of them. */
  setColumns(columns: readonly ColumnItem[], shown?: readonly string[]): void {
    const known = new Set(columns.map(({ column }) => column));
    const own = (shown ?? this.state.getState().shown).filter((column) => known.has(column));
    this.state.setState({ columns, shown: own.length ? own : usualColumns });
    this.reload();
  }

  show(shown: readonly string[]): void {
    this.state.setState({ shown: shown.length ? shown : ['name'] });
    const { cursor, anchor } = this.state.getState();
    const most = this.state.getState().shown.length - 1;
    const within = (place: Place) => ({ ...place, column: Math.min(place.column, most) });
    this.state.setState({ cursor: within(cursor), anchor: within(anchor) });
    this.reload();
  }

  ask(more: Partial<Pick<TableState, 'search' | 'where' | 'sort'>>): void {
    const first = { row: 0, column: this.state.getState().cursor.column };
    this.state.setState({ ...more, cursor: first, anchor: first, editing: null });
    this.reload();
  }

  /** Reads the rows again that were read; those that are shown stay until the others have come. */
  reload(): void {
    this.#asked++;
    this.#coming.clear();
    const { rows, cursor } = this.state.getState();
    const pages = new Set([...rows.keys(), cursor.row].map((row) => Math.floor(row / pageSize)));
    // What is far from where one is comes when it is scrolled to.
    const near = Math.floor(cursor.row / pageSize);
    const again = [...pages].filter((page) => Math.abs(page - near) <= 1);
    void Promise.all(again.map((page) => this.#read(page, true)));
  }

  /** Sees to it that these rows are there. */
  need(from: number, to: number): void {
    const { rows, total } = this.state.getState();
    for (let page = Math.floor(from / pageSize); page * pageSize <= Math.min(to, total - 1); page++)
      if (!rows.has(page * pageSize)) void this.#read(page, false);
  }

  #read(page: number, fresh: boolean): Promise<void> {
    const coming = this.#coming.get(page) ?? this.#fetch(page, fresh);
    this.#coming.set(page, coming);
    return coming;
  }

  async #fetch(page: number, fresh: boolean): Promise<void> {
    const asked = this.#asked;
    const { search, where, sort, shown } = this.state.getState();
    try {
      const answer = await this.needs.call(
        recordEndpoints.table,
        {},
        { search, where, sort, columns: [...shown], from: page * pageSize, count: pageSize },
      );
      if (asked !== this.#asked) return;
      const before = this.state.getState();
      const rows = new Map(fresh && !before.read ? [] : before.rows);
      for (let at = page * pageSize; at < (page + 1) * pageSize; at++) rows.delete(at);
      answer.rows.forEach((row, at) => rows.set(page * pageSize + at, row));
      for (const at of rows.keys()) if (at >= answer.total) rows.delete(at);
      const { total, all } = answer;
      this.state.setState({ rows, total, all, read: true, failed: null });
      this.#within();
    } catch (error) {
      if (asked === this.#asked) this.state.setState({ failed: this.needs.messageOf(error) });
    } finally {
      if (asked === this.#asked) this.#coming.delete(page);
    }
  }

  /** Keeps the cursor in the table. */
  #within(): void {
    const { cursor, anchor, total } = this.state.getState();
    const most = Math.max(0, total - 1);
    if (cursor.row > most || anchor.row > most)
      this.state.setState({
        cursor: { ...cursor, row: Math.min(cursor.row, most) },
        anchor: { ...anchor, row: Math.min(anchor.row, most) },
      });
  }

  /** Whether rows are there with these columns. */
  has(from: number, to: number, columns: readonly string[]): boolean {
    const { rows, total } = this.state.getState();
    for (let at = from; at <= Math.min(to, total - 1); at++)
      if (columns.some((column) => !rows.get(at)?.cells[column])) return false;
    return true;
  }

  /** Waits for rows with these columns: a block may be longer than what is in sight, and a column just chosen. False: other rows were asked for meanwhile. */
  async ready(from: number, to: number, columns: readonly string[]): Promise<boolean> {
    const { search, where, sort } = this.state.getState();
    for (let page = Math.floor(from / pageSize); page * pageSize <= to; page++) {
      const [first, last] = [Math.max(from, page * pageSize), Math.min(to, (page + 1) * pageSize - 1)];
      // What is on its way may have been asked for before the column was.
      for (let tries = 0; tries < 3 && !this.has(first, last, columns); tries++) await this.#read(page, false);
    }
    const now = this.state.getState();
    return search === now.search && where === now.where && sort === now.sort;
  }
}

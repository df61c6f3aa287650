import { goodsEndpoints } from '@/contract/goods';
import { recordEndpoints, type SavedAnswer, type TableRowItem } from '@/contract/records';
import { cellKey, TableRows, type Needs, type Place, type Unsaved } from './table-rows';

export interface Bulk {
  column: string;
  action: 'set' | 'add' | 'remove' | 'fill';
  text: string;
  /** Of these products; null: of all that are left by search and filter. */
  slugs: string[] | null;
}

/** The table of products: what is asked for and shown, where one is in it, and what is written. Kept outside React. */
export class GoodsTableStore extends TableRows {
  constructor(needs: Needs) {
    super(needs);
    const kept = needs.kept().map((one) => ({ ...one, why: 'This was not saved when the page was left' }));
    this.state.setState({ unsaved: new Map(kept.map((one) => [cellKey(one.slug, one.column), one])) });
  }

  // Where one is.

  move(to: Place, extend = false): void {
    const { total, shown } = this.state.getState();
    const cursor = {
      row: Math.max(0, Math.min(total - 1, to.row)),
      column: Math.max(0, Math.min(shown.length - 1, to.column)),
    };
    this.state.setState({ cursor, editing: null, ...(extend ? {} : { anchor: cursor }) });
  }

  step(rows: number, columns: number, extend = false): void {
    const { cursor } = this.state.getState();
    this.move({ row: cursor.row + rows, column: cursor.column + columns }, extend);
  }

  /** To the next cell, and at the end of a row to the next row; false at the end of the table. */
  next(back = false): boolean {
    const { cursor, shown, total } = this.state.getState();
    const at = cursor.row * shown.length + cursor.column + (back ? -1 : 1);
    if (at < 0 || at >= total * shown.length) return false;
    this.move({ row: Math.floor(at / shown.length), column: at % shown.length });
    return true;
  }

  selectAll(): void {
    const { total, shown } = this.state.getState();
    this.state.setState({
      anchor: { row: 0, column: 0 },
      cursor: { row: Math.max(0, total - 1), column: shown.length - 1 },
    });
  }

  /** What is selected, as rows and columns from and to, ends included. */
  selected(): { top: number; bottom: number; left: number; right: number } {
    const { cursor, anchor } = this.state.getState();
    return {
      top: Math.min(cursor.row, anchor.row),
      bottom: Math.max(cursor.row, anchor.row),
      left: Math.min(cursor.column, anchor.column),
      right: Math.max(cursor.column, anchor.column),
    };
  }

  /** What a cell shows: what is written there and not saved yet, else what is kept. */
  textAt({ row, column }: Place): string {
    const { rows, shown, unsaved } = this.state.getState();
    const [one, name = ''] = [rows.get(row), shown[column]];
    if (!one) return '';
    return unsaved.get(cellKey(one.slug, name))?.text ?? one.cells[name]?.text ?? '';
  }

  // What is written.

  /** Begins to edit the cell at the cursor; says why where that cannot be. */
  edit(text: string | null = null): string | null {
    const { cursor, rows, shown } = this.state.getState();
    const cell = rows.get(cursor.row)?.cells[shown[cursor.column] ?? ''];
    // What is typed into a cell that has not come yet is kept, and written once it is there.
    if (!cell && text === null) return null;
    if (cell && cell.locked !== null) return cell.locked;
    this.state.setState({ editing: text ?? this.textAt(cursor), anchor: cursor });
    return null;
  }

  type(text: string): void {
    this.state.setState({ editing: text });
  }

  leave(): void {
    this.state.setState({ editing: null });
  }

  /** Writes what stands in the editor. */
  commit(text = this.state.getState().editing): Promise<void> {
    const { cursor } = this.state.getState();
    this.state.setState({ editing: null });
    return text === null ? Promise.resolve() : this.write([[text]], cursor);
  }

  /** What is selected as a block, as table programs exchange it: cells between tabs, rows between line breaks. Rows must have been read. */
  block(): string {
    const { top, bottom, left, right } = this.selected();
    const quoted = (text: string) => (/[\t\n"]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
    const lines: string[] = [];
    for (let row = top; row <= bottom; row++) {
      const cells: string[] = [];
      for (let column = left; column <= right; column++) cells.push(quoted(this.textAt({ row, column })));
      lines.push(cells.join('\t'));
    }
    return lines.join('\n');
  }

  /** Empties what is selected. */
  clear(): Promise<void> {
    const { top, bottom, left, right } = this.selected();
    const row = Array.from({ length: right - left + 1 }, () => '');
    return this.write(
      Array.from({ length: bottom - top + 1 }, () => row),
      { row: top, column: left },
    );
  }

  /** Writes a block from its first cell on. One cell fills all that is selected. */
  async paste(block: readonly (readonly string[])[]): Promise<void> {
    const { top, bottom, left, right } = this.selected();
    const single = block.length === 1 && block[0]?.length === 1 ? (block[0][0] ?? '') : null;
    const filled =
      single === null
        ? block
        : Array.from({ length: bottom - top + 1 }, () => Array.from({ length: right - left + 1 }, () => single));
    const wide = Math.max(...filled.map((row) => row.length));
    const { total, shown } = this.state.getState();
    if (top + filled.length > total || left + wide > shown.length) {
      this.state.setState({
        failed: `The block has ${filled.length} rows and ${wide} columns: from here on there are ${total - top} rows and ${shown.length - left} columns. Nothing was pasted.`,
      });
      return;
    }
    const written = this.write(filled, { row: top, column: left });
    // At once: what is pressed next is meant for the block, saved or not.
    this.state.setState({
      anchor: { row: top, column: left },
      cursor: { row: top + filled.length - 1, column: left + wide - 1 },
    });
    await written;
  }

  async write(block: readonly (readonly string[])[], { row, column }: Place): Promise<void> {
    const { shown } = this.state.getState();
    const columns = shown.slice(column, column + Math.max(...block.map((line) => line.length)));
    const last = row + block.length - 1;
    if (!this.has(row, last, columns) && !(await this.ready(row, last, columns))) {
      this.state.setState({
        failed: 'Not written: the table was searched, filtered or sorted before its rows had come.',
      });
      return;
    }
    const { rows, unsaved } = this.state.getState();
    const cells = block.flatMap((line, down) =>
      line.flatMap((text, over): Unsaved[] => {
        const one = rows.get(row + down);
        const name = shown[column + over] ?? '';
        const cell = one?.cells[name];
        if (!one || !cell || text === (unsaved.get(cellKey(one.slug, name))?.text ?? cell.text)) return [];
        return [{ slug: one.slug, column: name, was: cell.text, text, why: null }];
      }),
    );
    if (cells.length) await this.#save(cells);
  }

  /** Saves again what could not be. */
  retry(): Promise<void> {
    return this.#save([...this.state.getState().unsaved.values()].map((one) => ({ ...one, why: null })));
  }

  /** Gives up what could not be saved. */
  discard(): void {
    this.#setUnsaved(new Map());
    this.state.setState({ failed: null });
    this.reload();
  }

  /** What is on its way to the server; what is written meanwhile goes after it. */
  #sending: Promise<void> = Promise.resolve();

  #save(cells: readonly Unsaved[]): Promise<void> {
    const unsaved = new Map(this.state.getState().unsaved);
    for (const one of cells) unsaved.set(cellKey(one.slug, one.column), one);
    this.#setUnsaved(unsaved);
    this.state.setState({ failed: null });
    const sending = this.#sending.then(() => this.#send(cells));
    this.#sending = sending;
    void sending.then(() => sending === this.#sending && this.#left.clear());
    return sending;
  }

  /** What saves left in cells, by what stood there before: for what was written before they were answered. */
  readonly #left = new Map<string, string>();

  async #send(written: readonly Unsaved[]): Promise<void> {
    const { shown } = this.state.getState();
    const leftKey = ({ slug, column, was }: Unsaved) => `${cellKey(slug, column)} ${was}`;
    const cells = written.map((one) => ({ ...one, was: this.#left.get(leftKey(one)) ?? one.was }));
    try {
      const answer = await this.needs.call(
        recordEndpoints.cells,
        {},
        { cells: cells.map(({ slug, column, was, text }) => ({ slug, column, was, text })), columns: [...shown] },
      );
      this.#settle(cells);
      this.#put(answer.rows);
      const bySlug = new Map(answer.rows.map((row) => [row.slug, row.cells]));
      for (const one of cells) this.#left.set(leftKey(one), bySlug.get(one.slug)?.[one.column]?.text ?? one.text);
      if (answer.change !== null) this.#came(answer);
      if (!answer.rows.length) this.reload();
    } catch (error) {
      this.#refused(cells, error);
    }
  }

  /** Cells are saved, or given up: what was written into them since stays. */
  #settle(cells: readonly Unsaved[]): void {
    const left = new Map(this.state.getState().unsaved);
    for (const one of cells) {
      const key = cellKey(one.slug, one.column);
      if (left.get(key)?.text === one.text) left.delete(key);
    }
    this.#setUnsaved(left);
  }

  #refused(cells: readonly Unsaved[], error: unknown): void {
    const refusal = this.needs.refusalOf(error);
    const message = this.needs.messageOf(error);
    const known = new Map((refusal?.cells ?? []).map((one) => [cellKey(one.slug, one.column), one]));
    const left = new Map(this.state.getState().unsaved);
    for (const one of cells) {
      const key = cellKey(one.slug, one.column);
      const said = known.get(key);
      const why = said ? (said.now === undefined ? said.message : `${said.message}: it is “${said.now}” now`) : message;
      if (left.has(key)) left.set(key, { ...one, ...(said?.now === undefined ? {} : { was: said.now }), why });
    }
    this.#setUnsaved(left);
    this.state.setState({ failed: message });
  }

  #setUnsaved(unsaved: ReadonlyMap<string, Unsaved>): void {
    this.state.setState({ unsaved });
    this.needs.keep([...unsaved.values()]);
  }

  /** Rows as they are after a save, where they stand. */
  #put(changed: readonly TableRowItem[]): void {
    const bySlug = new Map(changed.map((row) => [row.slug, row]));
    const rows = new Map(this.state.getState().rows);
    for (const [at, { slug }] of rows) {
      const row = bySlug.get(slug);
      if (row) rows.set(at, row);
    }
    this.state.setState({ rows });
  }

  #came({ change, count, left, leftCount }: SavedAnswer): void {
    this.state.setState({ saved: change === null ? null : { change, count, left, leftCount } });
    this.needs.changed();
  }

  /** Changes a column of many products. */
  async bulk({ column, action, text, slugs }: Bulk): Promise<void> {
    const { search, where } = this.state.getState();
    this.state.setState({ working: 0, failed: null, saved: null });
    try {
      await this.needs.callForLines(
        recordEndpoints.bulk,
        {},
        { column, action, text, slugs, search, where },
        ({ done, saved }) => {
          this.state.setState({ working: done });
          if (!saved) return;
          this.#came(saved);
          if (saved.change === null)
            this.state.setState({
              failed: saved.left[0]
                ? `Nothing was changed: ${saved.left[0].message}.`
                : 'Nothing was changed: it is so already.',
            });
        },
        new AbortController().signal,
      );
    } catch (error) {
      this.state.setState({ failed: this.needs.messageOf(error) });
    }
    this.state.setState({ working: null });
    this.reload();
  }

  /** Undoes what was saved last; what others changed since stays. */
  async undo(): Promise<void> {
    await this.#sending;
    const { saved } = this.state.getState();
    if (!saved) return;
    try {
      await this.needs.callForLines(
        goodsEndpoints.undo,
        { change: saved.change, overlapping: 'leave' },
        undefined,
        () => {},
        new AbortController().signal,
      );
      this.state.setState({ saved: null, failed: null });
      this.needs.changed();
    } catch (error) {
      this.state.setState({ failed: this.needs.messageOf(error) });
    }
    this.reload();
  }
}

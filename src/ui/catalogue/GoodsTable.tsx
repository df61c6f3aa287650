'use client';
import { useMay } from '@/ui/shared';
import { RightOutlined } from '@ant-design/icons';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Alert } from 'antd';
import { useEffect, useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import type { ColumnItem } from '@/contract/records';
import { CellEditor } from './CellEditor';
import { ColumnHead } from './ColumnHead';
import { readBlock } from './clipboard';
import { cellKey, type TableState } from './table-rows';
import type { GoodsTableStore } from './table-store';

interface Props {
  table: GoodsTableStore;
  currency: string;
  names: Readonly<Record<'brand' | 'tag' | 'category' | 'type', readonly string[]>>;
  /** Slug of the product whose record is open. */
  open: string | null;
  onOpen: (slug: string) => void;
}

/** Height of a row, in pixels: rows out of sight are not made. */
const height = 30;
/** Width of what opens a row's record, in pixels. */
const opener = 28;

const widths: Record<ColumnItem['type'], number> = {
  ...{ text: 170, html: 170, number: 96, money: 110, flag: 80, day: 110, link: 170, picture: 150 },
  ...{ list: 170, brand: 140, tags: 210, categories: 190, count: 86 },
};
const widthOf = ({ column, type }: ColumnItem): number => (column === 'name' ? 230 : widths[type]);

const idOf = (row: number, column: number): string => `goods-cell-${row}-${column}`;

/** All products in rows, as a grid by WAI-ARIA's pattern: arrows go, Enter edits, Tab goes on, a block is pasted where one is. */
export function GoodsTable({ table, currency, names, open, onOpen }: Props) {
  'use no memo';
  const goods = useMay('goods');
  const state = useStore(table.state);
  const { shown, total, rows, cursor, editing, read } = state;
  const room = useRef<HTMLDivElement>(null);
  const [told, setTold] = useState('');
  /** After Escape the next Tab leaves the table. */
  const leaving = useRef(false);
  const columns = shown.flatMap((name) => state.columns.find(({ column }) => column === name) ?? []);
  const widthsNow = columns.map(widthOf);
  const template = [opener, ...widthsNow].map((width) => `${width}px`).join(' ');
  // eslint-disable-next-line react-hooks/incompatible-library -- it keeps its own state: this component is not memoized
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => room.current,
    estimateSize: () => height,
    overscan: 12,
    scrollMargin: 0,
  });
  const items = virtual.getVirtualItems();
  const [from, to] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
  useEffect(() => table.need(from, to), [table, from, to, rows, total]);
  useEffect(() => {
    virtual.scrollToIndex(cursor.row);
    const left = opener + widthsNow.slice(0, cursor.column).reduce((sum, width) => sum + width, 0);
    const held = opener + (widthsNow[0] ?? 0);
    const view = room.current;
    if (!view || cursor.column === 0) return;
    if (left - held < view.scrollLeft) view.scrollLeft = left - held;
    const right = left + (widthsNow[cursor.column] ?? 0);
    if (right > view.scrollLeft + view.clientWidth) view.scrollLeft = right - view.clientWidth;
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when one moves
  }, [cursor.row, cursor.column]);

  const focus = () => room.current?.focus({ preventScroll: true });
  const edit = (text: string | null = null) => {
    if (!goods) return;
    const locked = table.edit(text);
    setTold(locked === null ? '' : `${locked}.`);
  };
  const openHere = () => {
    const row = rows.get(cursor.row);
    if (row) onOpen(row.slug);
  };
  const keys = (event: KeyboardEvent) => {
    if (editing !== null || event.target !== room.current) return;
    const { key, shiftKey, ctrlKey, metaKey, altKey } = event;
    const command = ctrlKey || metaKey;
    const most = total - 1;
    const page = Math.max(1, Math.floor((room.current?.clientHeight ?? 300) / height) - 2);
    const moves: Record<string, () => void> = {
      ArrowDown: () => (command ? table.move({ ...cursor, row: most }, shiftKey) : table.step(1, 0, shiftKey)),
      ArrowUp: () => (command ? table.move({ ...cursor, row: 0 }, shiftKey) : table.step(-1, 0, shiftKey)),
      ArrowRight: () => table.step(0, 1, shiftKey),
      ArrowLeft: () => table.step(0, -1, shiftKey),
      PageDown: () => table.step(page, 0, shiftKey),
      PageUp: () => table.step(-page, 0, shiftKey),
      Home: () => table.move({ row: command ? 0 : cursor.row, column: 0 }, shiftKey),
      End: () => table.move({ row: command ? most : cursor.row, column: shown.length - 1 }, shiftKey),
      Enter: () => (command ? openHere() : edit()),
      F2: () => edit(),
      Delete: () => void table.clear(),
      Backspace: () => void table.clear(),
      Escape: () => {
        leaving.current = true;
        table.move(cursor);
      },
    };
    if (key === 'Tab') {
      if (!leaving.current && table.next(shiftKey)) event.preventDefault();
      return;
    }
    leaving.current = key === 'Escape';
    setTold('');
    const move = moves[key];
    if (move) move();
    else if (command && key === 'a') table.selectAll();
    else if (command && key === 'z') void table.undo();
    else if (key.length === 1 && !command && !altKey) edit(key);
    else return;
    event.preventDefault();
  };
  const copy = (event: ClipboardEvent) => {
    if (editing !== null) return;
    event.preventDefault();
    event.clipboardData.setData('text/plain', table.block());
  };
  const paste = (event: ClipboardEvent) => {
    if (editing !== null) return;
    const text = event.clipboardData.getData('text/plain');
    if (!text) return;
    event.preventDefault();
    void readBlock(text).then((block) => table.paste(block));
  };
  if (read && total === 0)
    return (
      <div className="goods-none">
        {state.all === 0 ? (
          <p>There are no products yet. Import them from a file, under Import and export.</p>
        ) : (
          <p>No product is left by the search and the filter.</p>
        )}
      </div>
    );
  const picked = table.selected();
  return (
    <>
      {told && (
        <Alert className="goods-told" type="info" showIcon title={told} closable={{ onClose: () => setTold('') }} />
      )}
      <div
        className="goods-grid"
        ref={room}
        role="grid"
        tabIndex={0}
        aria-label="Products"
        aria-rowcount={total + 1}
        aria-colcount={columns.length + 1}
        aria-multiselectable
        aria-activedescendant={idOf(cursor.row, cursor.column)}
        onKeyDown={keys}
        onCopy={copy}
        onPaste={paste}
      >
        <div className="goods-row goods-head" role="row" aria-rowindex={1} style={{ gridTemplateColumns: template }}>
          <span role="columnheader">
            <span className="unseen">Record</span>
          </span>
          {columns.map((column, at) => (
            <ColumnHead
              key={column.column}
              table={table}
              column={column}
              at={at}
              currency={currency}
              sort={state.sort?.column === column.column ? state.sort : null}
            />
          ))}
        </div>
        <div className="goods-body" style={{ height: virtual.getTotalSize() }}>
          {items.map(({ index, start }) => (
            <Row
              key={index}
              {...{ table, state, columns, template, names, index, start, picked }}
              open={open !== null && rows.get(index)?.slug === open}
              onOpen={onOpen}
              onEdit={() => edit()}
              onDone={focus}
            />
          ))}
        </div>
      </div>
    </>
  );
}

interface RowProps {
  table: GoodsTableStore;
  state: TableState;
  columns: readonly ColumnItem[];
  template: string;
  names: Props['names'];
  index: number;
  start: number;
  picked: ReturnType<GoodsTableStore['selected']>;
  open: boolean;
  onOpen: (slug: string) => void;
  onEdit: () => void;
  /** The editor is left: the table has the focus again. */
  onDone: () => void;
}

function Row({ table, state, columns, template, names, index, start, picked, open, onOpen, onEdit, onDone }: RowProps) {
  const { rows, cursor, unsaved, editing } = state;
  const row = rows.get(index);
  return (
    <div
      className="goods-row"
      role="row"
      aria-rowindex={index + 2}
      data-open={open || undefined}
      style={{ gridTemplateColumns: template, transform: `translateY(${start}px)` }}
    >
      <span role="gridcell" className="goods-open">
        {row && (
          <button
            type="button"
            tabIndex={-1}
            aria-label={`Open ${row.name}`}
            title="Open the record (Ctrl Enter)"
            onClick={() => onOpen(row.slug)}
          >
            <RightOutlined aria-hidden />
          </button>
        )}
      </span>
      {columns.map((column, at) => {
        const cell = row?.cells[column.column];
        const text = table.textAt({ row: index, column: at });
        const waits = row ? unsaved.get(cellKey(row.slug, column.column)) : undefined;
        const here = cursor.row === index && cursor.column === at;
        const inside = index >= picked.top && index <= picked.bottom && at >= picked.left && at <= picked.right;
        return (
          <span
            key={column.column}
            id={idOf(index, at)}
            role="gridcell"
            aria-colindex={at + 2}
            aria-selected={inside}
            aria-readonly={cell ? cell.locked !== null : undefined}
            className="goods-cell"
            data-type={column.type}
            data-here={here || undefined}
            data-empty={(cell && !text) || undefined}
            data-unsaved={waits ? (waits.why === null ? 'saving' : 'failed') : undefined}
            title={waits?.why ?? (text.length > 20 ? text : undefined)}
            onMouseDown={(event) => {
              if (here && editing !== null) return;
              event.preventDefault();
              onDone();
              if (editing !== null) void table.commit();
              table.move({ row: index, column: at }, event.shiftKey);
            }}
            onMouseEnter={(event) => {
              if (event.buttons === 1 && editing === null) table.move({ row: index, column: at }, true);
            }}
            onDoubleClick={onEdit}
          >
            {here && editing !== null ? (
              <CellEditor table={table} column={column} names={names} text={editing} onDone={onDone} />
            ) : !row ? (
              <span className="goods-coming" />
            ) : text ? (
              <>
                <span className="goods-text">{text}</span>
                {column.column === 'name' && !row.live && <span className="goods-hidden">not live yet</span>}
              </>
            ) : (
              <span className="goods-empty">{cell ? 'empty' : ''}</span>
            )}
          </span>
        );
      })}
    </div>
  );
}

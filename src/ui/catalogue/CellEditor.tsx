'use client';
import { Select } from 'antd';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import type { ColumnItem } from '@/contract/records';
import { readList } from '@/core/exchange';
import type { GoodsTableStore } from './table-store';

interface Props {
  table: GoodsTableStore;
  column: ColumnItem;
  names: Readonly<Record<'brand' | 'tag' | 'category' | 'type', readonly string[]>>;
  text: string;
  onDone: () => void;
}

/** What is written into a cell. Enter writes it and goes down, Tab writes it and goes on, Escape leaves it as it was. */
export function CellEditor({ table, column, names, text, onDone }: Props) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const input = field.current;
    input?.focus();
    input?.setSelectionRange(input.value.length, input.value.length);
  }, []);
  const keys = (event: KeyboardEvent) => {
    const { key, shiftKey } = event;
    if (key !== 'Enter' && key !== 'Tab' && key !== 'Escape') return;
    event.preventDefault();
    event.stopPropagation();
    onDone();
    if (key === 'Escape') return table.leave();
    void table.commit();
    if (key === 'Enter') table.step(shiftKey ? -1 : 1, 0);
    else table.next(shiftKey);
  };
  const label = `${column.label}, edited`;
  if (column.type === 'tags' || column.type === 'categories') {
    const known = names[column.type === 'tags' ? 'tag' : 'category'];
    return (
      <Select
        className="goods-select"
        mode="multiple"
        size="small"
        autoFocus
        defaultOpen
        aria-label={label}
        value={readList(text)}
        options={known.map((value) => ({ value, label: value }))}
        onChange={(list: string[]) => table.type(list.join(list.some((one) => one.includes(',')) ? ' | ' : ', '))}
        onInputKeyDown={(event) => {
          // Enter picks from the list; with nothing written it is done.
          if (event.key === 'Enter' && (event.target as HTMLInputElement).value) return;
          keys(event);
        }}
        onBlur={() => void table.commit()}
      />
    );
  }
  const list =
    column.type === 'brand'
      ? names.brand
      : column.column === 'type'
        ? names.type
        : column.type === 'flag'
          ? ['yes', 'no']
          : column.choices;
  return (
    <>
      <input
        ref={field}
        className="goods-input"
        aria-label={label}
        value={text}
        {...(list.length ? { list: 'goods-known' } : {})}
        onChange={(event) => table.type(event.target.value)}
        onKeyDown={keys}
        onBlur={() => void table.commit()}
      />
      {list.length > 0 && (
        <datalist id="goods-known">
          {list.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </>
  );
}

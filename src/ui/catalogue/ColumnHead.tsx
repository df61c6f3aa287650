'use client';
import { ArrowDownOutlined, ArrowUpOutlined, MoreOutlined } from '@ant-design/icons';
import { Dropdown } from 'antd';
import type { CellsAsk, ColumnItem } from '@/contract/records';
import { withLeaf } from './filters';
import type { GoodsTableStore } from './table-store';

interface Props {
  table: GoodsTableStore;
  column: ColumnItem;
  at: number;
  currency: string;
  /** How the table is sorted, where it is by this column. */
  sort: CellsAsk['sort'];
}

/** The head of a column: a click sorts by it; its menu filters by what is empty, and moves or hides it. */
export function ColumnHead({ table, column, at, currency, sort }: Props) {
  const { label, unit, type, sorted, fact } = column;
  const { shown, where } = table.state.getState();
  const by = (down: boolean) => table.ask({ sort: { column: column.column, down } });
  const only = (test: 'empty' | 'filled') => fact && table.ask({ where: withLeaf(where, { ...fact, test }) });
  const move = (step: number) => {
    const next = shown.filter((one) => one !== column.column);
    next.splice(at + step, 0, column.column);
    table.show(next);
  };
  const items = [
    ...(sorted
      ? [
          { key: 'up', label: 'Sort upwards', onClick: () => by(false) },
          { key: 'down', label: 'Sort downwards', onClick: () => by(true) },
        ]
      : []),
    ...(sort ? [{ key: 'unsorted', label: 'As in the catalogue', onClick: () => table.ask({ sort: null }) }] : []),
    ...(fact && type !== 'flag'
      ? [
          { key: 'empty', label: 'Only where it is empty', onClick: () => only('empty') },
          { key: 'filled', label: 'Only where it is filled', onClick: () => only('filled') },
        ]
      : []),
    ...(at > 0 ? [{ key: 'left', label: 'Move left', onClick: () => move(-1) }] : []),
    ...(at < shown.length - 1 ? [{ key: 'right', label: 'Move right', onClick: () => move(1) }] : []),
    { key: 'hide', label: 'Hide', onClick: () => table.show(shown.filter((one) => one !== column.column)) },
  ];
  const measure = type === 'money' ? currency : unit;
  return (
    <span
      role="columnheader"
      className="goods-cell"
      data-type={type}
      aria-colindex={at + 2}
      aria-sort={sort ? (sort.down ? 'descending' : 'ascending') : sorted ? 'none' : undefined}
    >
      <button
        type="button"
        className="goods-sort"
        tabIndex={-1}
        disabled={!sorted}
        title={sorted ? `Sort by ${label}` : label}
        onClick={() => by(sort ? !sort.down : false)}
      >
        {label}
        {measure && <small> {measure}</small>}
        {sort && (sort.down ? <ArrowDownOutlined aria-hidden /> : <ArrowUpOutlined aria-hidden />)}
      </button>
      <Dropdown menu={{ items }} trigger={['click']}>
        <button type="button" className="goods-menu" tabIndex={-1} aria-label={`More of ${label}`}>
          <MoreOutlined aria-hidden />
        </button>
      </Dropdown>
    </span>
  );
}

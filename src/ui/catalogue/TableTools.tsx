'use client';
import { CloseOutlined, FilterOutlined, PlusOutlined, TableOutlined } from '@ant-design/icons';
import { useQuery } from '@tanstack/react-query';
import { Button, Checkbox, Input, Popover } from 'antd';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { alternateEndpoints } from '@/contract/alternates';
import type { ColumnItem } from '@/contract/records';
import { groupOf, type Condition } from '@/core/alternates';
import { ConditionEditor, filledIn } from '@/ui/alternates';
import { call, useLater, usePlace } from '@/ui/shared';
import { partsOf, sayPart, without } from './filters';
import { NewRecord } from './record/NewRecord';
import { usualColumns } from './table-rows';
import type { GoodsTableStore } from './table-store';

/** Above the table: what is searched and filtered, and which columns are shown. */
export function TableTools({ table, currency }: { table: GoodsTableStore; currency: string }) {
  const { columns, where, search } = useStore(table.state);
  const [words, setWords] = useState(search);
  const [adding, setAdding] = useState(false);
  const find = useLater(words, 150);
  useEffect(() => {
    if (find !== table.state.getState().search) table.ask({ search: find });
  }, [find, table]);
  return (
    <div className="goods-tools">
      <Input
        className="goods-search"
        allowClear
        placeholder="Find by name, number, value"
        aria-label="Find products"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      {partsOf(where).map((part, at) => (
        <span key={JSON.stringify(part)} className="goods-chip">
          {sayPart(part, columns, currency)}
          <button
            type="button"
            aria-label={`Take the filter off: ${sayPart(part, columns, currency)}`}
            onClick={() => table.ask({ where: without(where, at) })}
          >
            <CloseOutlined aria-hidden />
          </button>
        </span>
      ))}
      <FilterBy table={table} />
      <ChooseColumns table={table} />
      <Button
        aria-label="New"
        title="New product"
        icon={<PlusOutlined aria-hidden />}
        onClick={() => setAdding(true)}
      />
      <NewRecord kind="product" open={adding} onClose={() => setAdding(false)} onMade={() => table.reload()} />
    </div>
  );
}

/** A filter by anything that a rule can ask. */
function FilterBy({ table }: { table: GoodsTableStore }) {
  const { draft } = usePlace();
  const where = useStore(table.state, (state) => state.where);
  const [open, setOpen] = useState(false);
  const [made, setMade] = useState<Condition>({ all: [] });
  const facts = useQuery({
    queryKey: ['facts', draft, 'product'],
    queryFn: () => call(alternateEndpoints.facts, { draft, kind: 'product' }),
    enabled: open && draft !== '',
  });
  const begin = (next: boolean) => {
    // What is asked already is there to be changed.
    if (next) setMade({ all: partsOf(where) });
    setOpen(next);
  };
  const use = () => {
    const filled = filledIn(made);
    const group = groupOf(filled);
    table.ask({ where: group && !group.parts.length ? null : filled });
    setOpen(false);
  };
  return (
    <Popover
      trigger="click"
      open={open}
      onOpenChange={begin}
      placement="bottomLeft"
      content={
        <div className="goods-filter">
          {facts.data && <ConditionEditor of={made} facts={facts.data} onChange={setMade} />}
          <Button type="primary" onClick={use}>
            Show these
          </Button>
        </div>
      }
    >
      <Button icon={<FilterOutlined />}>Filter</Button>
    </Popover>
  );
}

function ChooseColumns({ table }: { table: GoodsTableStore }) {
  const { columns, shown } = useStore(table.state);
  const groups = [...new Set(columns.map(({ group }) => group))];
  const change = ({ column }: ColumnItem, is: boolean) =>
    table.show(is ? [...shown, column] : shown.filter((one) => one !== column));
  return (
    <Popover
      trigger="click"
      placement="bottomLeft"
      content={
        <div className="goods-columns">
          {groups.map((group) => (
            <fieldset key={group}>
              <legend>{group}</legend>
              {columns
                .filter((one) => one.group === group)
                .map((one) => (
                  <Checkbox
                    key={one.column}
                    checked={shown.includes(one.column)}
                    onChange={(event) => change(one, event.target.checked)}
                  >
                    {one.label}
                  </Checkbox>
                ))}
            </fieldset>
          ))}
          <Button size="small" onClick={() => table.show(usualColumns)}>
            As at first
          </Button>
        </div>
      }
    >
      <Button icon={<TableOutlined />}>Columns</Button>
    </Popover>
  );
}

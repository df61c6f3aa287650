'use client';
import { Input, Modal, Radio, Select } from 'antd';
import { useState } from 'react';
import { useStore } from 'zustand';
import type { Bulk, GoodsTableStore } from './table-store';

const actions: Record<Bulk['action'], string> = {
  set: 'Set to',
  fill: 'Fill where it is empty',
  add: 'Add',
  remove: 'Remove',
};
const lists = new Set(['tags', 'categories', 'list']);
const notWritten = new Set(['product', 'sku', 'pictures']);

/** One thing that is done to a column of many products, as one change. */
export function BulkDialog({ table, onClose }: { table: GoodsTableStore; onClose: () => void }) {
  const { columns, shown, rows, total, cursor } = useStore(table.state);
  const { top, bottom } = table.selected();
  const picked = Array.from({ length: bottom - top + 1 }, (_, at) => rows.get(top + at)?.slug ?? null);
  const here = shown[cursor.column] ?? 'name';
  const possible = columns.filter(({ column }) => !notWritten.has(column));
  const [column, setColumn] = useState(notWritten.has(here) ? 'type' : here);
  const [action, setAction] = useState<Bulk['action']>(bottom > top ? 'set' : 'fill');
  const [text, setText] = useState('');
  const [of, setOf] = useState<'picked' | 'all'>(bottom > top ? 'picked' : 'all');
  const type = columns.find((one) => one.column === column)?.type ?? 'text';
  const isList = lists.has(type);
  const offered = (Object.keys(actions) as Bulk['action'][]).filter((one) => isList || one === 'set' || one === 'fill');
  const does = offered.includes(action) ? action : 'set';
  // Rows that were not read are all that are shown.
  const slugs = of === 'picked' && !picked.includes(null) ? (picked as string[]) : null;
  const count = slugs ? slugs.length : total;
  const ready = does === 'set' || text.trim() !== '';
  return (
    <Modal
      open
      title="Change many products"
      okText={`Change ${count.toLocaleString('en')} ${count === 1 ? 'product' : 'products'}`}
      okButtonProps={{ disabled: !ready }}
      onCancel={onClose}
      onOk={() => {
        onClose();
        void table.bulk({ column, action: does, text, slugs });
      }}
    >
      <div className="goods-bulk">
        <label>
          <span>Column</span>
          <Select
            showSearch={{ optionFilterProp: 'label' }}
            value={column}
            options={possible.map((one) => ({ value: one.column, label: one.label }))}
            onChange={setColumn}
          />
        </label>
        <Radio.Group
          aria-label="What is done"
          value={does}
          options={offered.map((value) => ({ value, label: actions[value] }))}
          onChange={(event) => setAction(event.target.value as Bulk['action'])}
        />
        <label>
          <span>{isList ? 'Names, between commas' : 'Value'}</span>
          <Input
            autoFocus
            value={text}
            placeholder={does === 'set' ? 'nothing: it becomes empty' : ''}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <Radio.Group
          aria-label="Which products"
          value={of}
          options={[
            {
              value: 'picked',
              label: `The ${picked.length.toLocaleString('en')} selected`,
              disabled: picked.includes(null),
            },
            { value: 'all', label: `All ${total.toLocaleString('en')} that are shown` },
          ]}
          onChange={(event) => setOf(event.target.value as 'picked' | 'all')}
        />
        <p className="quiet">It is one change: one Undo undoes all of it.</p>
      </div>
    </Modal>
  );
}

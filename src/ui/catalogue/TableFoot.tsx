'use client';
import { Alert, Button } from 'antd';
import { useState } from 'react';
import { useStore } from 'zustand';
import { BulkDialog } from './BulkDialog';
import type { GoodsTableStore } from './table-store';

const many = (count: number, what: string): string => `${count.toLocaleString('en')} ${what}${count === 1 ? '' : 's'}`;

/** Below the table: how much of it is shown, what is saved or could not be, and changes of many at once. */
export function TableFoot({ table }: { table: GoodsTableStore }) {
  const { columns, total, all, unsaved, saved, failed, read, working } = useStore(table.state);
  const [bulk, setBulk] = useState(false);
  const problems = [...unsaved.values()].filter(({ why }) => why !== null);
  const labelOf = (column: string) => columns.find((one) => one.column === column)?.label ?? column;
  const waiting = unsaved.size - problems.length;
  return (
    <div className="goods-foot">
      {failed && problems.length === 0 && (
        <Alert
          type="error"
          showIcon
          title={failed}
          action={
            <Button size="small" onClick={() => table.reload()}>
              Try again
            </Button>
          }
        />
      )}
      {problems.length > 0 && (
        <Alert
          type="error"
          showIcon
          title={`${many(problems.length, 'cell')} not saved`}
          description={
            <ul>
              {problems.slice(0, 5).map(({ slug, column, text, why }) => (
                <li key={`${slug} ${column}`}>
                  {labelOf(column)} of {slug}
                  {!why?.includes(`“${text}”`) && `, “${text.slice(0, 60)}”`}: {why?.replace(/\.$/, '')}.
                </li>
              ))}
              {problems.length > 5 && <li>… and {problems.length - 5} more.</li>}
            </ul>
          }
          action={
            <span className="goods-actions">
              <Button size="small" type="primary" onClick={() => void table.retry()}>
                Save again
              </Button>
              <Button size="small" onClick={() => table.discard()}>
                Drop what I wrote
              </Button>
            </span>
          }
        />
      )}
      <div className="goods-status">
        <span role="status">
          {read && `${total.toLocaleString('en')} of ${many(all, 'product')}`}
          {waiting > 0 && ` · saving ${many(waiting, 'cell')}`}
          {working !== null && ` · ${working.toLocaleString('en')} written`}
          {saved && waiting === 0 && working === null && ` · ${many(saved.count, 'product')} changed, live now`}
          {saved &&
            saved.leftCount > 0 &&
            `, ${saved.leftCount.toLocaleString('en')} left: ${saved.left[0]?.message ?? ''}`}
        </span>
        {saved && waiting === 0 && working === null && (
          <Button size="small" title="Undo (Ctrl Z in the table)" onClick={() => void table.undo()}>
            Undo
          </Button>
        )}
        <span className="quiet">Enter edits · Tab goes on · Ctrl V pastes a block · Ctrl Enter opens the record</span>
        <Button size="small" disabled={total === 0 || working !== null} onClick={() => setBulk(true)}>
          Change many…
        </Button>
      </div>
      {bulk && <BulkDialog table={table} onClose={() => setBulk(false)} />}
    </div>
  );
}

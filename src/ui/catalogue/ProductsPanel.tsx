'use client';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Skeleton } from 'antd';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { recordEndpoints } from '@/contract/records';
import { ApiError, call, callForLines, messageOf, readStored, usePlace, writeStored } from '@/ui/shared';
import { GoodsTable } from './GoodsTable';
import { RecordPanel } from './record/RecordPanel';
import { TableFoot } from './TableFoot';
import { TableTools } from './TableTools';
import type { Unsaved } from './table-rows';
import { GoodsTableStore } from './table-store';

const columnsKey = 'goods-columns';
const unsavedKey = 'goods-unsaved';

function keptUnsaved(): Unsaved[] {
  try {
    return JSON.parse(readStored(unsavedKey, '[]')) as Unsaved[];
  } catch {
    return [];
  }
}

/** All products, to be found, compared and written. */
export function ProductsPanel() {
  const queries = useQueryClient();
  const { get, go } = usePlace();
  const [table] = useState(
    () =>
      new GoodsTableStore({
        ...{ call, callForLines, messageOf },
        refusalOf: (error) => (error instanceof ApiError ? error.body : null),
        changed: () => void queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'goods-columns' }),
        keep: (unsaved) => writeStored(unsavedKey, JSON.stringify(unsaved)),
        kept: keptUnsaved,
      }),
  );
  const record = get('record');
  const about = useQuery({ queryKey: ['goods-columns'], queryFn: () => call(recordEndpoints.columns, {}) });
  useEffect(() => {
    if (!about.data) return;
    const stored = readStored(columnsKey, '');
    table.setColumns(about.data.columns, stored ? stored.split('\n') : undefined);
    return table.state.subscribe(({ shown }, before) => {
      if (shown !== before.shown) writeStored(columnsKey, shown.join('\n'));
    });
  }, [table, about.data]);
  const read = useStore(table.state, (state) => state.read || state.failed !== null);
  if (about.error) return <Alert type="error" showIcon title={messageOf(about.error)} />;
  if (!about.data || !read) return <Skeleton active className="goods-waiting" />;
  const { currency, names } = about.data;
  return (
    <div className="goods-products">
      <section className="goods-side" aria-label="Products">
        <h1 className="unseen">Products</h1>
        <TableTools table={table} currency={currency} />
        <GoodsTable
          table={table}
          currency={currency}
          names={names}
          open={record}
          onOpen={(slug) => go({ record: slug })}
        />
        <TableFoot table={table} />
      </section>
      {record !== null && (
        <RecordPanel
          key={record}
          kind="product"
          slug={record}
          onClose={() => go({ record: null })}
          onChanged={() => table.reload()}
        />
      )}
    </div>
  );
}

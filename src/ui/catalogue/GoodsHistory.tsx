'use client';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Alert, Button, Modal } from 'antd';
import { useState } from 'react';
import { useStore } from 'zustand';
import { goodsEndpoints, type GoodsChangeItem } from '@/contract/goods';
import { call, messageOf, When } from '@/ui/shared';
import type { Importing } from './import-store';

/** Records that are read at once. */
const pageSize = 50;

const counted = ({ added, changed, removed }: GoodsChangeItem): string =>
  [
    [added, 'added'],
    [changed, 'changed'],
    [removed, 'removed'],
  ]
    .flatMap(([count, what]) => (count ? [`${count.toLocaleString('en')} ${what}`] : []))
    .join(', ') || 'nothing';

/** What was changed of the goods, the latest first, each with its undo. */
export function GoodsHistory({ importing }: { importing: Importing }) {
  const { busy, asked } = useStore(importing.state);
  const history = useQuery({ queryKey: ['goods'], queryFn: () => call(goodsEndpoints.history, {}) });
  return (
    <section aria-label="Changes of goods">
      <h2>Changes of goods</h2>
      {history.error && <Alert type="error" showIcon title={messageOf(history.error)} />}
      {history.data?.length === 0 && (
        <p className="quiet">Nothing was changed yet. Each change of goods is listed here, and can be undone.</p>
      )}
      <ol className="goods-changes">
        {history.data?.map((change) => (
          <li key={change.id} data-undone={change.undoneBy !== null || undefined}>
            <strong>{change.title}</strong>
            <span className="quiet">
              {counted(change)} · {change.madeBy || 'someone'}, <When at={change.madeAt} />
            </span>
            <WhatChanged change={change.id} />
            {change.undoneBy === null ? (
              <Button
                size="small"
                disabled={busy !== null}
                loading={busy?.what === 'undo'}
                onClick={() => void importing.undo(change.id, change.title)}
              >
                Undo
              </Button>
            ) : (
              <span className="quiet">undone</span>
            )}
          </li>
        ))}
      </ol>
      <Modal
        open={asked !== null}
        title={`Undo “${asked?.name ?? ''}”`}
        onCancel={() => importing.keepAsItIs()}
        footer={
          asked && [
            <Button key="no" onClick={() => importing.keepAsItIs()}>
              Do not undo
            </Button>,
            <Button key="replace" onClick={() => void importing.undo(asked.change, asked.name, 'replace')}>
              Put these back too
            </Button>,
            <Button key="leave" type="primary" onClick={() => void importing.undo(asked.change, asked.name, 'leave')}>
              Leave these, undo the rest
            </Button>,
          ]
        }
      >
        <p>Since then some of it was changed again:</p>
        <ul className="import-left">
          {asked?.others.slice(0, 12).map((one) => (
            <li key={one}>{one}.</li>
          ))}
          {asked && asked.others.length > 12 && <li>… and {asked.others.length - 12} more.</li>}
        </ul>
      </Modal>
    </section>
  );
}

/** What a change did, value by value; read when it is asked for. */
function WhatChanged({ change }: { change: number }) {
  const [open, setOpen] = useState(false);
  const records = useInfiniteQuery({
    queryKey: ['goods-changed', change],
    queryFn: ({ pageParam }) => call(goodsEndpoints.changed, { change, from: pageParam }),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => (last.length === pageSize ? pages.length * pageSize : undefined),
    enabled: open,
  });
  return (
    <details className="goods-what" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>What it changed</summary>
      {records.error && <Alert type="error" showIcon title={messageOf(records.error)} />}
      <ul>
        {records.data?.pages.flat().map(({ kind, slug, what, fields }) => (
          <li key={`${kind} ${slug}`}>
            <strong>{slug}</strong> {what !== 'changed' && what}
            {what === 'changed' &&
              fields.map(({ field, before, after }) => (
                <span key={field} className="goods-value">
                  {field}: <del>{before || 'empty'}</del> <ins>{after || 'empty'}</ins>
                </span>
              ))}
          </li>
        ))}
      </ul>
      {records.hasNextPage && (
        <Button size="small" loading={records.isFetching} onClick={() => void records.fetchNextPage()}>
          More
        </Button>
      )}
    </details>
  );
}

'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button } from 'antd';
import { alternateEndpoints, type TargetItem, type WhoAnswer } from '@/contract/alternates';
import type { Cell } from '@/core/alternates';
import { call, messageOf } from '@/ui/shared';
import type { By } from './useCover';

interface Props {
  draft: string;
  target: TargetItem;
  cell: Cell;
  by: By;
  on: string | null;
  revision: string;
  title: string;
  onExplain: (who: WhoAnswer['rows'][number]) => void;
  onClose: () => void;
}

/** The subjects of a part of the map. */
export function CellList({ draft, target, cell, by, on, revision, title, onExplain, onClose }: Props) {
  const { group, template, because } = cell;
  const body = { target, on, by, group, template, because, rule: null, words: '', from: 0, limit: 200 };
  const found = useQuery({
    queryKey: ['cell', draft, JSON.stringify(body), revision],
    queryFn: () => call(alternateEndpoints.who, { draft }, body),
    placeholderData: (before) => before,
  });
  return (
    <section className="cell-list" aria-label={title}>
      <p className="cell-head">
        <strong>{title}</strong> <small>{found.data?.total ?? ''}</small>
        <Button size="small" type="text" aria-label="Close this list" onClick={onClose}>
          ✕
        </Button>
      </p>
      {found.isError && <Alert type="error" showIcon title={messageOf(found.error)} />}
      <ul>
        {found.data?.rows.map((row) => (
          <li key={`${row.slug} ${row.view ?? ''} ${row.name}`}>
            <button type="button" className="who-name" onClick={() => onExplain(row)}>
              {row.name}
            </button>
            {row.view && <small> as {row.view}</small>}
          </li>
        ))}
      </ul>
      {found.data && found.data.total > found.data.rows.length && (
        <p className="quiet">and {found.data.total - found.data.rows.length} more: see the table</p>
      )}
    </section>
  );
}

'use client';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Alert, Button, Checkbox, Input, Select } from 'antd';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { alternateEndpoints, type AlternatesTarget, type TargetItem, type WhoItem } from '@/contract/alternates';
import { call, messageOf } from '@/ui/shared';
import type { By } from './useCover';
import { Sign } from './Sign';

export interface Filter {
  group: string | null;
  template: string | null;
  because: 'pin' | 'rule' | 'default' | null;
  rule: string | null;
}

interface Props {
  draft: string;
  target: TargetItem;
  item: AlternatesTarget;
  on: string | null;
  by: By;
  revision: string;
  filter: Filter;
  noun: string;
  explained: string | null;
  onExplain: (who: WhoItem) => void;
  onPin: (slugs: string[], alternate: string | null) => void;
  busy: boolean;
}

const part = 100;
const height = 28;
const keyOf = (row: WhoItem): string => `${row.slug} ${row.view ?? ''} ${row.name}`;

/** Who gets what as a table: searched, chosen, and pinned many at once. */
export function WhoTable(props: Props) {
  'use no memo';
  const { draft, target, item, on, by, revision, filter, noun, explained, onExplain, onPin, busy } = props;
  const [words, setWords] = useState('');
  const [asked, setAsked] = useState('');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [to, setTo] = useState<string>('default');
  const room = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(words), 150);
    return () => clearTimeout(timer);
  }, [words]);
  const body = { target, on, by, ...filter, words: asked, limit: part };
  const found = useInfiniteQuery({
    queryKey: ['who', draft, JSON.stringify(body), revision],
    queryFn: ({ pageParam }) => call(alternateEndpoints.who, { draft }, { ...body, from: pageParam }),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => (pages.length * part < last.total ? pages.length * part : undefined),
    placeholderData: (before) => before,
  });
  const rows = found.data?.pages.flatMap((page) => page.rows) ?? [];
  const total = found.data?.pages[0]?.total ?? 0;
  // eslint-disable-next-line react-hooks/incompatible-library -- it keeps its own state: this component is not memoized
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => room.current,
    estimateSize: () => height,
    overscan: 12,
  });
  const shown = virtual.getVirtualItems();
  const last = shown.at(-1)?.index ?? 0;
  const { hasNextPage, isFetching, fetchNextPage } = found;
  useEffect(() => {
    if (hasNextPage && !isFetching && last > rows.length - 20) void fetchNextPage();
  }, [hasNextPage, isFetching, last, rows.length, fetchNextPage]);

  const toggle = (slug: string, is: boolean) => {
    const next = new Set(chosen);
    if (is) next.add(slug);
    else next.delete(slug);
    setChosen(next);
  };
  const labels = new Map(item.templates.map((one, at) => [one.file.replace(/\.html$/, ''), { label: one.label, at }]));
  const rules = new Map(item.rules.map((rule, at) => [rule.id, at + 1]));
  const keys = (event: KeyboardEvent) => {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    const row = (event.target as HTMLElement).closest<HTMLElement>('tr');
    const next = step === 1 ? row?.nextElementSibling : step === -1 ? row?.previousElementSibling : null;
    const button = next?.querySelector<HTMLElement>('button.who-name');
    if (!step || !button) return;
    event.preventDefault();
    button.focus();
  };
  const before = shown[0]?.start ?? 0;
  const after = virtual.getTotalSize() - (shown.at(-1)?.end ?? 0);
  const loaded = rows.map(({ slug }) => slug);
  const every = loaded.length > 0 && loaded.every((slug) => chosen.has(slug));
  return (
    <div className="who-table">
      <div className="who-tools">
        <Input
          size="small"
          allowClear
          placeholder={`Find among ${noun}`}
          aria-label={`Find among ${noun}`}
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <span className="quiet" role="status">
          {total} {noun}
          {chosen.size > 0 && `, ${chosen.size} chosen`}
        </span>
        {chosen.size > 0 && (
          <span className="who-pin">
            <Select
              size="small"
              aria-label="Pin them to"
              value={to}
              onChange={setTo}
              popupMatchSelectWidth={200}
              options={item.templates.map((one) => ({ value: one.name, label: one.label }))}
            />
            <Button size="small" type="primary" loading={busy} onClick={() => onPin([...chosen], to)}>
              Pin {chosen.size}
            </Button>
            <Button size="small" disabled={busy} onClick={() => onPin([...chosen], null)}>
              Unpin
            </Button>
            <Button size="small" type="text" onClick={() => setChosen(new Set())}>
              Choose none
            </Button>
          </span>
        )}
      </div>
      {found.isError && <Alert type="error" showIcon title={messageOf(found.error)} />}
      <div className="who-room" ref={room}>
        <table onKeyDown={keys} aria-rowcount={total + 1} aria-label="Who gets what">
          <thead>
            <tr aria-rowindex={1}>
              <th scope="col">
                <Checkbox
                  aria-label="Choose all that are listed"
                  checked={every}
                  indeterminate={!every && loaded.some((slug) => chosen.has(slug))}
                  onChange={(event) => setChosen(event.target.checked ? new Set(loaded) : new Set())}
                />
              </th>
              <th scope="col">Name</th>
              <th scope="col">{target.kind === 'product' ? 'Type' : ''}</th>
              <th scope="col">Gets</th>
              <th scope="col">Because of</th>
            </tr>
          </thead>
          <tbody>
            {before > 0 && <tr aria-hidden="true" style={{ height: before }} />}
            {shown.map(({ index }) => {
              const row = rows[index];
              if (!row) return null;
              const gets = labels.get(row.template);
              return (
                <tr key={keyOf(row)} aria-rowindex={index + 2} data-chosen={explained === row.slug || undefined}>
                  <td>
                    <Checkbox
                      aria-label={`Choose ${row.name}`}
                      checked={chosen.has(row.slug)}
                      onChange={(event) => toggle(row.slug, event.target.checked)}
                    />
                  </td>
                  <td>
                    <button type="button" className="who-name" title="Why?" onClick={() => onExplain(row)}>
                      {row.name}
                    </button>
                    {row.view && <small> as {row.view}</small>}
                  </td>
                  <td>
                    <small>{row.detail}</small>
                  </td>
                  <td>
                    <span className="who-gets">
                      <Sign at={gets?.at ?? 0} size={14} /> {gets?.label ?? row.template}
                    </span>
                  </td>
                  <td>
                    <small>{row.because === 'rule' ? `rule ${rules.get(row.rule ?? '') ?? ''}` : row.because}</small>
                  </td>
                </tr>
              );
            })}
            {after > 0 && <tr aria-hidden="true" style={{ height: after }} />}
          </tbody>
        </table>
        {!found.isLoading && total === 0 && (
          <p className="empty">Nothing here. Change the words, or what is filtered by.</p>
        )}
      </div>
    </div>
  );
}

'use client';
import { skipToken, useQuery } from '@tanstack/react-query';
import { Button, Input, Tooltip } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { benchEndpoints, type RecordPlaceItem } from '@/contract/bench';
import { ValueEditor } from '@/ui/catalogue';
import { call, messageOf, useLater } from '@/ui/shared';
import type { ReachRow } from '@/ui/workspace';

interface Props {
  draft: string;
  /** What the page is, and where the caret stands on it; null: in no template. */
  asked: {
    view: string | null;
    address: string;
    try: string | null;
    origin: string;
    file: string;
    layer: string;
    offset: number;
    frame: number | null;
  } | null;
  /** Changes when the page or the text was rendered again. */
  shown: string;
  unsaved: () => { path: string; text: string }[];
  writable: boolean;
  onWrite: (row: ReachRow, condition: boolean) => void;
  onHandDown: (name: string, from: string) => void;
  /** A value was changed in the catalogue: the page is another now. */
  onChanged: () => void;
}

/** Every value at the caret, with what it is on this page; to be found by name or by what it says, and written. */
export function InReach({ draft, asked, shown, unsaved, writable, onWrite, onHandDown, onChanged }: Props) {
  const [editing, setEditing] = useState<RecordPlaceItem | null>(null);
  const [open, setOpen] = useState<string[]>(['product', 'category', 'listing', 'content', 'article', 'tile']);
  const [search, setSearch] = useState('');
  const words = useLater(search, 200);
  const place = useLater(asked, 250);
  const fresh = useLater(shown, 400);
  const list = useRef<HTMLUListElement>(null);
  const [at, setAt] = useState(0);
  const now = useRef(unsaved);
  useEffect(() => {
    now.current = unsaved;
  });
  const reach = useQuery({
    queryKey: ['reach', draft, place, fresh, open, words],
    queryFn: place
      ? () => call(benchEndpoints.reach, { draft }, { ...place, unsaved: now.current(), open, search: words })
      : skipToken,
    placeholderData: (before) => before,
  });
  if (!asked)
    return (
      <p className="empty-note">
        Put the caret into a template: what can be printed there is listed here, with its values.
      </p>
    );
  const { rows = [], out = [], times = 0 } = reach.data ?? {};
  const toggle = (row: ReachRow) =>
    setOpen((before) => (before.includes(row.path) ? before.filter((one) => one !== row.path) : [...before, row.path]));
  const focus = (number: number) => {
    const to = Math.max(0, Math.min(rows.length - 1, number));
    setAt(to);
    list.current?.querySelectorAll<HTMLElement>('[role=treeitem]')[to]?.focus();
  };
  const pressed = (event: React.KeyboardEvent, row: ReachRow, number: number) => {
    if (event.target !== event.currentTarget) return;
    if (event.key === 'ArrowDown') focus(number + 1);
    else if (event.key === 'ArrowUp') focus(number - 1);
    else if (event.key === 'ArrowRight' && row.opens && !row.open) toggle(row);
    else if (event.key === 'ArrowLeft') {
      if (row.open) toggle(row);
      else focus(rows.slice(0, number).findLastIndex((one) => one.depth < row.depth));
    } else if (event.key === 'F2' && row.record) setEditing(row.record);
    else if (event.key === 'Enter' && writable) onWrite(row, event.shiftKey);
    else return;
    event.preventDefault();
  };
  return (
    <div className="reach">
      <div className="reach-find">
        <Input
          size="small"
          allowClear
          value={search}
          aria-label="Find in reach"
          placeholder="Find a name, or a text that stands on the page"
          onChange={(event) => setSearch(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'ArrowDown') return;
            event.preventDefault();
            focus(0);
          }}
        />
        <small>
          {times === 0
            ? 'not rendered on this page: types only'
            : times === 1
              ? 'as on this page'
              : `as in the one pointed at, of ${times}`}
        </small>
      </div>
      {reach.isError && <p className="empty-note is-wrong">{messageOf(reach.error)}</p>}
      <ul role="tree" aria-label="In reach" ref={list} aria-busy={reach.isFetching}>
        {rows.map((row, number) => (
          <li
            key={`${number} ${row.path}`}
            role="treeitem"
            aria-level={row.depth + 1}
            aria-expanded={row.opens ? row.open : undefined}
            aria-selected={number === at}
            aria-label={`${row.path}: ${row.shown?.text ?? row.type}`}
            tabIndex={number === at ? 0 : -1}
            onFocus={(event) => event.target === event.currentTarget && setAt(number)}
            onKeyDown={(event) => pressed(event, row, number)}
            onDoubleClick={() => writable && onWrite(row, row.perhaps)}
          >
            <span className="reach-name" style={{ paddingLeft: row.depth * 14 }}>
              <button
                type="button"
                tabIndex={-1}
                className="reach-toggle"
                aria-label={row.open ? `Close ${row.path}` : `Open ${row.path}`}
                style={{ visibility: row.opens ? 'visible' : 'hidden' }}
                onClick={() => toggle(row)}
              >
                {row.open ? '▾' : '▸'}
              </button>
              <code title={row.path}>{words.trim() ? row.path : row.name}</code>
            </span>
            <span className="reach-type">{row.type}</span>
            <span className="reach-value" data-empty={row.shown?.empty ?? false} title={row.shown?.text}>
              {/* eslint-disable-next-line @next/next/no-img-element -- a picture of the shop, in the size it has */}
              {row.shown?.picture && <img src={asked.origin + row.shown.picture} alt="" />}
              {row.shown?.colour && <i className="reach-colour" style={{ background: row.shown.colour }} />}
              {row.shown ? (row.shown.kind === 'none' ? 'none' : row.shown.text) : ''}
              {row.unit && row.shown && row.shown.kind !== 'none' ? ` ${row.unit}` : ''}
            </span>
            <span className="reach-counted">
              {row.counted && row.counted.empty > 0
                ? `empty on ${row.counted.empty.toLocaleString('en')} of ${row.counted.total.toLocaleString('en')}`
                : ''}
            </span>
            <span className="reach-do">
              {row.record && (
                <Tooltip title="Change the value in the catalogue (F2)">
                  <Button
                    size="small"
                    tabIndex={-1}
                    aria-label={`Change ${row.path}`}
                    onClick={() => setEditing(row.record)}
                  >
                    Change…
                  </Button>
                </Tooltip>
              )}
              <Tooltip
                title={
                  writable
                    ? 'Write it at the caret (Enter)'
                    : 'This file is not the shop’s: change it for the shop first'
                }
              >
                <Button size="small" tabIndex={-1} disabled={!writable} onClick={() => onWrite(row, false)}>
                  Write
                </Button>
              </Tooltip>
              {row.perhaps && (
                <Tooltip title="Write it so that it is there only when it has a value (Shift Enter)">
                  <Button size="small" tabIndex={-1} disabled={!writable} onClick={() => onWrite(row, true)}>
                    …when there
                  </Button>
                </Tooltip>
              )}
            </span>
          </li>
        ))}
      </ul>
      {!rows.length && reach.isSuccess && (
        <p className="empty-note">
          {words ? `Nothing in reach is called or says “${words}”.` : 'Nothing is in reach here.'}
        </p>
      )}
      {editing && <ValueEditor place={editing} onClose={() => setEditing(null)} onSaved={onChanged} />}
      {out.length > 0 && (
        <section className="reach-out" aria-label="Out of reach">
          <h3>Out of reach</h3>
          <ul>
            {out.map((one) => (
              <li key={one.name}>
                <code>{one.name}</code> <span className="reach-type">{one.type}</span>
                <span className="reach-value">{one.shown?.text ?? ''}</span>
                <small>{one.from} has it</small>
                <Button size="small" onClick={() => onHandDown(one.name, one.from)}>
                  Hand it down
                </Button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

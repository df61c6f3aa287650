'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, type KeyboardEvent } from 'react';
import type { ChangesAnswer } from '@/contract/drafts';
import type { LayerItem } from '@/contract/shared';
import type { LayersAnswer, Standing } from '@/contract/layers';
import { layered } from '@/core/theme';
import { LayerTag } from '@/ui/shared';
import { inFolders, splitPath } from './firstSight';

type Row = LayersAnswer['rows'][number];

interface Props {
  layers: LayerItem[];
  rows: Row[];
  problems: Map<string, ChangesAnswer['problems']>;
  chosen: string | null;
  /** Where a file is shown: followed by itself while the page has not come to life yet. */
  addressOf: (path: string) => string;
  onChoose: (path: string) => void;
}

/** Height of a row, in pixels: rows out of sight are not made. */
const height = 26;
/** What is taken for the table's size where it is not known: on the server. */
const usualSize = { width: 800, height: 640 };

export const standingSays: Record<Standing, string> = {
  new: 'the shop’s alone',
  amends: 'amends',
  adds: 'adds to it',
  override: 'override',
  drifted: 'drifted',
  same: 'same as below',
};

/** What a layer has of a file: it serves, amends or adds to it, or is covered by one above. */
export function cellOf({ path, hashes, amends }: Row, at: number): 'serves' | 'amends' | 'adds' | 'covered' | null {
  if (hashes[at] === null) return null;
  if (layered(path)) return hashes.slice(0, at).some((hash) => hash !== null) ? 'adds' : 'serves';
  if (amends[at]) return 'amends';
  const above = hashes.findIndex((hash, place) => place > at && hash !== null && !amends[place]);
  return above < 0 ? 'serves' : 'covered';
}

/** The files of a theme by folder, with a mark in the column of each layer that has them. Up and down go through them. */
export function FileTable({ layers, rows: given, problems, chosen, addressOf, onChoose }: Props) {
  'use no memo';
  const rows = useMemo(() => inFolders(given), [given]);
  const room = useRef<HTMLDivElement>(null);
  const items = useMemo(
    () =>
      rows.flatMap((row, at): (Row | string)[] => {
        const [folder] = splitPath(row.path);
        return at === 0 || splitPath(rows[at - 1]?.path ?? '')[0] !== folder ? [folder, row] : [row];
      }),
    [rows],
  );
  // eslint-disable-next-line react-hooks/incompatible-library -- it keeps its own state: this component is not memoized
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => room.current,
    estimateSize: () => height,
    overscan: 10,
    initialRect: usualSize,
  });
  // A file that is chosen elsewhere, or comes in, is brought into sight, once.
  const brought = useRef<string | null>(null);
  useEffect(() => {
    const at = items.findIndex((item) => typeof item !== 'string' && item.path === chosen);
    if (at >= 0 && brought.current !== chosen) virtual.scrollToIndex(at);
    if (at >= 0 || chosen === null) brought.current = chosen;
  }, [chosen, items, virtual]);
  const shown = virtual.getVirtualItems();
  const before = shown[0]?.start ?? 0;
  const after = virtual.getTotalSize() - (shown.at(-1)?.end ?? 0);
  const keys = (event: KeyboardEvent) => {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    const path = (event.target as HTMLElement).dataset.path;
    if (!step || path === undefined) return;
    event.preventDefault();
    const next = rows[rows.findIndex((row) => row.path === path) + step];
    if (!next) return;
    virtual.scrollToIndex(items.indexOf(next));
    // A row that was out of sight is made first.
    const focus = (tries: number) => {
      const button = room.current?.querySelector<HTMLElement>(`[data-path="${CSS.escape(next.path)}"]`);
      if (button) button.focus();
      else if (tries) requestAnimationFrame(() => focus(tries - 1));
    };
    focus(5);
  };
  return (
    <div className="file-room" ref={room}>
      <table className="file-table" aria-rowcount={items.length + 1} onKeyDown={keys}>
        <thead>
          <tr aria-rowindex={1}>
            <th scope="col">File</th>
            {layers.map((layer) => (
              <th scope="col" key={layer.name}>
                <LayerTag layer={layer} />
                <small>{layer.kind === 'shop' ? layer.name : `${layer.name} ${layer.version}`}</small>
              </th>
            ))}
            <th scope="col">The shop’s own</th>
          </tr>
        </thead>
        <tbody>
          {before > 0 && <tr aria-hidden="true" style={{ height: before }} />}
          {shown.map(({ index }) => {
            const item = items[index];
            if (item === undefined) return null;
            if (typeof item === 'string')
              return (
                <tr key={` ${item}`} className="file-folder" aria-rowindex={index + 2}>
                  <th scope="rowgroup" colSpan={layers.length + 2}>
                    {item || 'Of the whole theme'}
                  </th>
                </tr>
              );
            return (
              <FileRow
                key={item.path}
                row={item}
                at={index + 2}
                layers={layers}
                found={problems.get(item.path)}
                chosen={item.path === chosen}
                address={addressOf(item.path)}
                onChoose={onChoose}
              />
            );
          })}
          {after > 0 && <tr aria-hidden="true" style={{ height: after }} />}
        </tbody>
      </table>
    </div>
  );
}

interface RowProps {
  row: Row;
  at: number;
  layers: LayerItem[];
  found: ChangesAnswer['problems'] | undefined;
  chosen: boolean;
  address: string;
  onChoose: (path: string) => void;
}

function FileRow({ row, at, layers, found, chosen, address, onChoose }: RowProps) {
  return (
    <tr aria-selected={chosen} aria-rowindex={at}>
      <th scope="row">
        <a
          className="file-name"
          href={address}
          data-path={row.path}
          aria-label={row.path}
          aria-current={chosen || undefined}
          onClick={(event) => {
            // A key held means another window, as with any link.
            if (event.ctrlKey || event.metaKey || event.shiftKey || event.altKey) return;
            event.preventDefault();
            onChoose(row.path);
          }}
        >
          {splitPath(row.path)[1]}
        </a>
        {found && (
          <span className="is-wrong" title={found[0]?.message}>
            ● {found.length}
          </span>
        )}
      </th>
      {layers.map((layer, place) => {
        const cell = cellOf(row, place);
        return (
          <td key={layer.name}>{cell && <span className={`cell cell-${cell} cell-${layer.kind}`}>{cell}</span>}</td>
        );
      })}
      <td>
        {row.standing && <span className={`standing standing-${row.standing}`}>{standingSays[row.standing]}</span>}
      </td>
    </tr>
  );
}

'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, type KeyboardEvent } from 'react';
import type { ChangesAnswer } from '@/contract/drafts';
import type { LayerItem } from '@/contract/shared';
import type { LayersAnswer, Standing } from '@/contract/layers';
import { layered } from '@/core/theme';
import { LayerTag } from '@/ui/shared';

type Row = LayersAnswer['rows'][number];

interface Props {
  layers: LayerItem[];
  rows: Row[];
  problems: Map<string, ChangesAnswer['problems']>;
  chosen: string | null;
  onChoose: (path: string) => void;
}

/** Height of a row, in pixels: rows out of sight are not made. */
const height = 26;

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
export function FileTable({ layers, rows: given, problems, chosen, onChoose }: Props) {
  'use no memo';
  // Those of the whole theme first, then folder by folder.
  const rows = useMemo(() => [...given].sort((a, b) => compare(split(a.path)[0], split(b.path)[0])), [given]);
  const room = useRef<HTMLDivElement>(null);
  const items = useMemo(
    () =>
      rows.flatMap((row, at): (Row | string)[] => {
        const [folder] = split(row.path);
        return at === 0 || split(rows[at - 1]?.path ?? '')[0] !== folder ? [folder, row] : [row];
      }),
    [rows],
  );
  // eslint-disable-next-line react-hooks/incompatible-library -- it keeps its own state: this component is not memoized
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => room.current,
    estimateSize: () => height,
    overscan: 10,
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
  onChoose: (path: string) => void;
}

function FileRow({ row, at, layers, found, chosen, onChoose }: RowProps) {
  return (
    <tr aria-selected={chosen} aria-rowindex={at}>
      <th scope="row">
        <button
          type="button"
          className="file-name"
          data-path={row.path}
          aria-label={row.path}
          aria-pressed={chosen}
          onClick={() => onChoose(row.path)}
        >
          {split(row.path)[1]}
        </button>
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

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

function split(path: string): [folder: string, name: string] {
  const at = path.indexOf('/');
  return at < 0 ? ['', path] : [path.slice(0, at), path.slice(at + 1)];
}

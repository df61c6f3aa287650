import { Fragment, useRef, type KeyboardEvent } from 'react';
import type { ChangesAnswer, LayerItem } from '@/contract/api';
import type { LayersAnswer, Standing } from '@/contract/theme';
import { layered } from '@/core/theme/layered';
import { LayerTag } from '../shared/LayerTag';

type Row = LayersAnswer['rows'][number];

interface Props {
  layers: LayerItem[];
  rows: Row[];
  problems: Map<string, ChangesAnswer['problems']>;
  chosen: string | null;
  onChoose: (path: string) => void;
}

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
export function FileTable({ layers, rows, problems, chosen, onChoose }: Props) {
  const table = useRef<HTMLTableElement>(null);
  const keys = (event: KeyboardEvent) => {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (!step) return;
    const buttons = [...(table.current?.querySelectorAll<HTMLButtonElement>('button.file-name') ?? [])];
    const at = buttons.indexOf(document.activeElement as HTMLButtonElement);
    if (at < 0) return;
    event.preventDefault();
    buttons[at + step]?.focus();
  };
  return (
    <div className="file-room">
      <table className="file-table" ref={table} onKeyDown={keys}>
        <thead>
          <tr>
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
          {rows.map((row, at) => {
            const [folder, name] = split(row.path);
            const first = at === 0 || split(rows[at - 1]?.path ?? '')[0] !== folder;
            const found = problems.get(row.path);
            return (
              <Fragment key={row.path}>
                {first && (
                  <tr className="file-folder">
                    <th scope="rowgroup" colSpan={layers.length + 2}>
                      {folder || 'Of the whole theme'}
                    </th>
                  </tr>
                )}
                <tr aria-selected={row.path === chosen}>
                  <th scope="row">
                    <button
                      type="button"
                      className="file-name"
                      aria-label={row.path}
                      aria-pressed={row.path === chosen}
                      onClick={() => onChoose(row.path)}
                    >
                      {name}
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
                      <td key={layer.name}>
                        {cell && <span className={`cell cell-${cell} cell-${layer.kind}`}>{cell}</span>}
                      </td>
                    );
                  })}
                  <td>
                    {row.standing && (
                      <span className={`standing standing-${row.standing}`}>{standingSays[row.standing]}</span>
                    )}
                  </td>
                </tr>
              </Fragment>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function split(path: string): [folder: string, name: string] {
  const at = path.indexOf('/');
  return at < 0 ? ['', path] : [path.slice(0, at), path.slice(at + 1)];
}

'use client';
import { useQuery } from '@tanstack/react-query';
import { Button, Input } from 'antd';
import { useState } from 'react';
import type { WordRow } from '@/core/theme';
import { messageOf, useLater } from '@/ui/shared';
import { useNow, useWorkspace, type OpenFile } from '@/ui/workspace';

/** So many rows are drawn at once; what is looked for narrows them. */
const most = 200;

const shownOf = (phrase: WordRow['phrase']): string =>
  typeof phrase === 'string'
    ? phrase
    : Object.entries(phrase)
        .map(([form, text]) => `${form}: ${text}`)
        .join(' · ');

/** The phrases of a file of words as all layers have them, to be found by key or text, and written into the shop's file. */
export function WordsHere({ file }: { file: OpenFile }) {
  const workspace = useWorkspace();
  const layerHere = useNow(workspace.spot, (now) => now.layerHere);
  const [search, setSearch] = useState('');
  const text = useLater(file.text, 300);
  const words = useQuery({
    queryKey: ['words', file.path, layerHere, text],
    queryFn: () => workspace.language.ask('words', { file: file.path, layer: layerHere, text, offset: 0 }),
    placeholderData: (before) => before,
  });
  if (words.isError) return <p className="empty-note is-wrong">{messageOf(words.error)}</p>;
  const wanted = search.trim().toLowerCase();
  const rows = (words.data ?? []).filter(
    ({ key, phrase }) => key.toLowerCase().includes(wanted) || shownOf(phrase).toLowerCase().includes(wanted),
  );
  const write = async ({ key, phrase }: WordRow) => {
    const before = workspace.editor?.text() ?? '';
    const next = await workspace.language.ask('word', { text: before.trim() ? before : '{}\n', key, phrase });
    const { editor } = workspace;
    if (!editor || editor.text() !== before) return;
    editor.change([{ from: 0, to: before.length, text: next }]);
    editor.show(Math.max(0, next.lastIndexOf(`"${key.slice(key.lastIndexOf('.') + 1)}"`)));
  };
  return (
    <div className="reach">
      <div className="reach-find">
        <Input
          size="small"
          allowClear
          value={search}
          aria-label="Find a phrase"
          placeholder="Find a key, or a text"
          onChange={(event) => setSearch(event.target.value)}
        />
        <small>
          {rows.length.toLocaleString('en')} {rows.length === 1 ? 'phrase' : 'phrases'} of all layers
          {rows.length > most ? `, the first ${most} are shown` : ''}
        </small>
      </div>
      <table className="words-here" aria-label="Phrases of all layers">
        <tbody>
          {rows.slice(0, most).map((row) => (
            <tr key={row.key} data-own={row.own}>
              <th scope="row">
                <code>{row.key}</code>
              </th>
              <td className={row.layer ? '' : 'quiet'}>{shownOf(row.phrase)}</td>
              <td className="quiet">{row.own ? 'the shop’s' : row.layer || 'not in this language'}</td>
              <td>
                {!row.own && (
                  <Button size="small" disabled={!file.writable} onClick={() => void write(row)}>
                    {row.layer ? 'Change here' : 'Add here'}
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

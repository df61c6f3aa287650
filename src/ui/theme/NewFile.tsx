'use client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Alert, Input, Modal, Radio } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { fileEndpoints } from '@/contract/files';
import type { LayerItem } from '@/contract/shared';
import type { LayersAnswer } from '@/contract/layers';
import { call, draftChanged, messageOf } from '@/ui/shared';

interface Props {
  draft: string;
  folder: string;
  /** Every file of the theme, with the layers that have it. */
  table: LayersAnswer;
  onClose: () => void;
}

const firstText = (path: string): string =>
  path.endsWith('.html') ? '<p></p>\n' : path.endsWith('.json') ? '{}\n' : path.endsWith('.css') ? '\n' : '';

/** Layers that have a path, the lowest first, each with whether its file changes the one below instead of replacing it. */
function layersWith(table: LayersAnswer, path: string): { layer: LayerItem; amends: boolean }[] {
  const row = table.rows.find((one) => one.path === path);
  if (!row) return [];
  return table.layers
    .map((layer, at) => ({ layer, amends: row.amends[at] === true, hash: row.hashes[at] ?? null }))
    .filter(({ hash }) => hash !== null);
}

/** How the shop's own file begins where a layer below has one. */
type Start = 'changes' | 'copy' | 'empty';

/** Makes a file of the shop's own and opens it on the Bench. Where a layer has the path already, that is said, and how to begin asked. */
export function NewFile({ draft, folder, table, onClose }: Props) {
  const router = useRouter();
  const queries = useQueryClient();
  const [typed, setTyped] = useState(folder ? `${folder}/` : 'pieces/');
  const [start, setStart] = useState<Start | null>(null);
  const path = typed.trim();
  const layers = layersWith(table, path);
  const there = layers.at(-1)?.layer ?? null;
  // A copy of an amendment would make its changes twice: it is of the whole file below.
  const whole = layers.findLast(({ amends }) => !amends)?.layer ?? there;
  const isOwn = there?.kind === 'shop';
  const show = () => {
    onClose();
    router.push(`/bench?${new URLSearchParams({ draft, file: path })}`);
  };
  const make = useMutation({
    mutationFn: async () => {
      const text =
        start === 'copy' && whole
          ? (await call(fileEndpoints.open, { draft, path, layer: whole.name })).text
          : start === 'changes'
            ? '<amend>\n</amend>\n'
            : firstText(path);
      return call(fileEndpoints.save, { draft }, { path, text, expected: null });
    },
    onSuccess: () => {
      void draftChanged(queries, draft);
      show();
    },
  });
  const ready = path !== '' && (there === null || isOwn || start !== null);
  const go = () => {
    if (!ready) return;
    if (isOwn) show();
    else make.mutate();
  };
  return (
    <Modal
      title="New file"
      open
      onCancel={onClose}
      onOk={go}
      okText={isOwn ? 'Open it' : 'Make it'}
      cancelText="Cancel"
      okButtonProps={{ disabled: !ready, loading: make.isPending }}
    >
      <label className="field" htmlFor="new-file">
        Path
      </label>
      <Input
        id="new-file"
        autoFocus
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setStart(null);
        }}
        onPressEnter={go}
        placeholder="pieces/sizes.html"
      />
      {there === null && <p className="quiet">Templates end in .html; style sheets and scripts stand below assets/.</p>}
      {isOwn && <p role="status">The shop has {path} already: open it to change it.</p>}
      {there !== null && !isOwn && (
        <div role="status" className="taken">
          <p>
            {path} is there already: {layers.map(({ layer }) => `${layer.name} (${layer.kind})`).join(', changed by ')}.
            The shop’s own file would begin
          </p>
          <Radio.Group
            className="stacked"
            aria-label="How the shop’s own file begins"
            value={start}
            onChange={({ target }) => setStart(target.value as Start)}
            options={[
              ...(path.endsWith('.html')
                ? [{ value: 'changes', label: 'as changes to it: what they leave follows it' }]
                : []),
              { value: 'copy', label: `as a copy of the file of ${whole?.name}, and serve in its place` },
              { value: 'empty', label: 'empty: nothing of what is there is left on pages' },
            ]}
          />
        </div>
      )}
      {make.isError && <Alert type="error" showIcon title={messageOf(make.error)} />}
    </Modal>
  );
}

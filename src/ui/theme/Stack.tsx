'use client';
import { addressOf } from '@/contract/endpoint';
import { fileEndpoints } from '@/contract/files';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button } from 'antd';
import Link from 'next/link';
import { useRef, useState } from 'react';
import { layerEndpoints, type LayersAnswer, type VersionItem } from '@/contract/layers';
import { call, draftChanged, messageOf, LayerTag } from '@/ui/shared';
import { UpdateDialog } from './UpdateDialog';
import { useBringVersion } from './useBringVersion';

/** The layers of a draft, lowest last: their versions, what can take their place, and the ways in and out. */
export function Stack({ draft, table }: { draft: string; table: LayersAnswer }) {
  const { message } = App.useApp();
  const queries = useQueryClient();
  const [updating, setUpdating] = useState<VersionItem | null>(null);
  const versionFile = useRef<HTMLInputElement>(null);
  const themeFile = useRef<HTMLInputElement>(null);
  const versions = useQuery({ queryKey: ['versions'], queryFn: () => call(layerEndpoints.versions, {}) });
  const version = useBringVersion(setUpdating);
  const take = useMutation({
    mutationFn: (zip: File) => call(fileEndpoints.replaceAll, { draft }, zip),
    onSuccess: ({ changed }) => {
      void message.success(changed ? `${changed} files came in, as one change` : 'The ZIP holds what is here already');
      void draftChanged(queries, draft);
    },
  });
  const others = (versions.data ?? []).filter(
    (one) => !table.layers.some(({ name, version }) => name === one.name && version === one.version),
  );
  const count = (at: number) => table.rows.filter(({ hashes }) => hashes[at] !== null).length;
  const failed = version.error ?? take.error;
  return (
    <div className="stack">
      <h2>
        Layers <small>what is above covers or amends what is below</small>
      </h2>
      <ol className="stack-layers">
        {[...table.layers].reverse().map((layer) => {
          const newer = others.filter(({ name }) => name === layer.name);
          return (
            <li key={layer.name}>
              <LayerTag layer={layer} />
              <div>
                <strong>
                  {layer.name} {layer.kind === 'shop' ? '' : layer.version}
                </strong>{' '}
                <small>{count(table.layers.indexOf(layer))} files</small>
                {newer.map((one) => (
                  <p key={one.id}>
                    <Button size="small" onClick={() => setUpdating(one)}>
                      See what {one.version} would change
                    </Button>
                  </p>
                ))}
              </div>
              <a
                className="quiet-link"
                href={addressOf(fileEndpoints.zip, { draft, layer: layer.kind === 'shop' ? undefined : layer.name })}
                download
              >
                Download as ZIP
              </a>
            </li>
          );
        })}
      </ol>
      {others
        .filter(({ name }) => !table.layers.some((layer) => layer.name === name))
        .map((one) => (
          <p key={one.id}>
            <Button size="small" onClick={() => setUpdating(one)}>
              See what {one.name} {one.version} would add
            </Button>
          </p>
        ))}
      <div className="stack-ways">
        <Button loading={version.pending} onClick={() => versionFile.current?.click()}>
          Import a version of a base or add-on…
        </Button>
        <p className="quiet">A ZIP of its folder. You see what it changes first; live stays as it is.</p>
        <Button loading={take.isPending} onClick={() => themeFile.current?.click()}>
          Replace the shop’s own files with a ZIP…
        </Button>
        <p className="quiet">As one change of this draft, which can be undone.</p>
        {(
          [
            [versionFile, version.bring, 'Version of a base or add-on'],
            [themeFile, take.mutate, 'The shop’s own files'],
          ] as const
        ).map(([ref, come, label]) => (
          <input
            key={label}
            ref={ref}
            type="file"
            accept=".zip,application/zip"
            aria-label={label}
            hidden
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = '';
              if (file) come(file);
            }}
          />
        ))}
      </div>
      {failed && <Alert type="error" showIcon title={messageOf(failed)} />}
      {version.question}
      <h2>The look</h2>
      <p>
        <Link href={`/bench?${new URLSearchParams({ draft, file: 'look.json' })}`}>Colours, sizes and listings</Link>{' '}
        <span className="quiet">are set in look.json, with the page beside it.</span>
      </p>
      {updating && <UpdateDialog draft={draft} to={updating} onClose={() => setUpdating(null)} />}
    </div>
  );
}

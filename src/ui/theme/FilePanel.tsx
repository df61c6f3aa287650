'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Input, Select, Tabs } from 'antd';
import Link from 'next/link';
import { useState } from 'react';
import type { ChangesAnswer } from '@/contract/drafts';
import type { LayerItem } from '@/contract/shared';
import { historyEndpoints, type ChangeItem } from '@/contract/history';
import { layerEndpoints, type DriftAnswer, type LayersAnswer } from '@/contract/layers';
import { fileEndpoints } from '@/contract/files';
import { applyFix } from '@/core/language';
import { call, draftChanged, messageOf, LayerTag, When } from '@/ui/shared';
import { Difference } from '@/ui/source';
import { Drift } from './Drift';
import { cellOf } from './FileTable';

interface Props {
  draft: string;
  layers: LayerItem[];
  row: LayersAnswer['rows'][number];
  problems: ChangesAnswer['problems'];
  onGone: () => void;
  onMoved: (path: string) => void;
}

/** A version of the file that can be looked at: a layer's, or that of an earlier save. */
interface Version {
  key: string;
  label: string;
  hash: string;
}

/** One file: its layers, any version beside any other, and what can be done with the shop's own. */
export function FilePanel({ draft, layers, row, problems, onGone, onMoved }: Props) {
  const { path, hashes, standing } = row;
  const { message } = App.useApp();
  const queries = useQueryClient();
  const own = hashes.at(-1) ?? null;
  const below =
    hashes
      .slice(0, -1)
      .filter((hash) => hash !== null)
      .at(-1) ?? null;
  const [renaming, setRenaming] = useState<string | null>(null);
  const [settling, setSettling] = useState(false);
  const history = useQuery({
    queryKey: ['history', 'file', path],
    queryFn: () => call(historyEndpoints.list, { draft, path }),
  });
  const elsewhere = useQuery({
    queryKey: ['versions', path],
    queryFn: () => call(historyEndpoints.versions, { path }),
  });
  const done = (said: string) => {
    void message.success(said);
    void draftChanged(queries, draft);
  };
  const remove = useMutation({
    mutationFn: () =>
      call(
        fileEndpoints.saveAll,
        { draft },
        {
          title: `${path} removed`,
          files: [{ path, text: null, expected: own }],
        },
      ),
    onSuccess: () => {
      done(
        below
          ? `The file below serves again. The shop’s own is kept in the history.`
          : `${path} is gone; its history stays.`,
      );
      if (!below) onGone();
    },
  });
  const rename = useMutation({
    mutationFn: (to: string) => call(fileEndpoints.rename, { draft }, { path, to, expected: own }),
    onSuccess: ({ paths }, to) => {
      const others = paths.filter((one) => one !== path && one !== to);
      done(`It is ${to} now${others.length ? `, and so it is called in ${others.join(', ')}` : ''}.`);
      onMoved(to);
    },
  });
  const restore = useMutation({
    mutationFn: (hash: string) => call(historyEndpoints.restore, { draft }, { path, hash, expected: own }),
    onSuccess: () => done('That version is the shop’s own again'),
  });
  const versions: Version[] = [
    ...layers.flatMap((layer, at) => {
      const hash = hashes[at];
      if (!hash) return [];
      const label = layer.kind === 'shop' ? 'The shop’s own, now' : `${layer.name} ${layer.version}`;
      return [{ key: `layer ${layer.name}`, label, hash }];
    }),
    ...(elsewhere.data ?? [])
      .filter(({ name, version }) => !layers.some((layer) => layer.name === name && layer.version === version))
      .map(({ name, version, hash }) => ({ key: `version ${name} ${version}`, label: `${name} ${version}`, hash })),
    ...(history.data ?? []).flatMap(({ id, draft: of, madeAt, files }) => {
      const hash = files[0]?.hash;
      return hash ? [{ key: `save ${id}`, label: `${new Date(madeAt).toLocaleString('en-GB')} · ${of}`, hash }] : [];
    }),
  ];
  const lost = standing === 'amends' && problems.some(({ code }) => placeCodes.has(code));
  const failed = [remove, rename, restore].find((one) => one.isError);
  return (
    <div className="file-panel">
      <div className="file-head">
        <h2>
          <code>{path}</code>
        </h2>
        {row.text && (
          <Link className="button-link" href={`/bench?${new URLSearchParams({ draft, file: path })}`}>
            Open on the Bench
          </Link>
        )}
      </div>
      <ol className="file-layers">
        {[...layers].reverse().map((layer) => {
          const cell = cellOf(row, layers.indexOf(layer));
          return (
            cell && (
              <li key={layer.name}>
                <LayerTag layer={layer} /> {layer.kind === 'shop' ? layer.name : `${layer.name} ${layer.version}`}
                <span className="quiet">{cell}</span>
              </li>
            )
          );
        })}
      </ol>
      {problems
        .filter((one) => !lost || !placeCodes.has(one.code))
        .map((one) => (
          <p key={`${one.line} ${one.code} ${one.message}`} className={one.severity === 'note' ? 'quiet' : 'is-wrong'}>
            ● Line {one.line}: {one.message}
          </p>
        ))}
      {standing === 'drifted' && (
        <Alert
          type="warning"
          showIcon
          title="What it was taken from has changed below it."
          action={
            <Button size="small" type="primary" onClick={() => setSettling(true)}>
              Merge
            </Button>
          }
        />
      )}
      {lost && <LostPlaces draft={draft} path={path} />}
      {own !== null && (
        <div className="file-actions">
          {renaming === null ? (
            <>
              <Button size="small" loading={remove.isPending} onClick={() => remove.mutate()}>
                {below ? 'Fall back to what is below' : 'Delete'}
              </Button>
              {path !== 'alternates.json' && (
                <Button size="small" onClick={() => setRenaming(path)}>
                  Rename
                </Button>
              )}
            </>
          ) : (
            <form
              onSubmit={(event) => {
                event.preventDefault();
                rename.mutate(renaming, { onSuccess: () => setRenaming(null) });
              }}
            >
              <Input
                autoFocus
                aria-label="New path"
                value={renaming}
                onChange={(event) => setRenaming(event.target.value)}
              />
              <Button
                size="small"
                type="primary"
                htmlType="submit"
                disabled={renaming === path}
                loading={rename.isPending}
              >
                Rename
              </Button>
              <Button size="small" onClick={() => setRenaming(null)}>
                Cancel
              </Button>
            </form>
          )}
        </div>
      )}
      {failed && <Alert type="error" showIcon title={messageOf(failed.error)} />}
      <Tabs
        size="small"
        items={[
          {
            key: 'beside',
            label: 'Beside each other',
            children: (
              <Beside
                path={path}
                versions={versions}
                first={standing === 'amends' ? own : (below ?? own)}
                second={own ?? below}
              />
            ),
          },
          {
            key: 'history',
            label: `History ${history.data?.length ?? ''}`,
            children: (
              <FileHistory
                changes={history.data ?? []}
                path={path}
                now={own}
                restoring={restore.isPending}
                onRestore={(hash) => restore.mutate(hash)}
              />
            ),
          },
        ]}
      />
      {settling && <Drift draft={draft} path={path} onClose={() => setSettling(false)} />}
    </div>
  );
}

/** What is said of places of an amendment that are gone or not sure. */
const placeCodes = new Set(['mark', 'place-moved']);

/** Places of an amendment that are gone below, each with the nearest one to write instead, and those that an update left unsure. */
function LostPlaces({ draft, path }: { draft: string; path: string }) {
  const { message } = App.useApp();
  const queries = useQueryClient();
  const drift = useQuery({
    queryKey: ['drift', draft, path],
    queryFn: () => call(layerEndpoints.drift, { draft, path }),
  });
  const write = useMutation({
    mutationFn: ({ edits }: NonNullable<DriftAnswer['lost'][number]['fix']>) => {
      const { own = '', hash = '' } = drift.data ?? {};
      return call(
        fileEndpoints.save,
        { draft },
        {
          path,
          text: applyFix(own, { title: '', edits }),
          expected: hash,
        },
      );
    },
    onSuccess: () => {
      void message.success('It has its place now');
      void draftChanged(queries, draft);
    },
  });
  if (write.isError) return <Alert type="error" showIcon title={messageOf(write.error)} />;
  return drift.data?.lost.map(({ line, message: said, fix }) => (
    <Alert
      key={`${line} ${said}`}
      type="warning"
      showIcon
      title={`Line ${line}: ${said}`}
      action={
        fix && (
          <Button size="small" type="primary" loading={write.isPending} onClick={() => write.mutate(fix)}>
            {fix.title}
          </Button>
        )
      }
    />
  ));
}

function Beside({
  path,
  versions,
  first,
  second,
}: {
  path: string;
  versions: Version[];
  first: string | null;
  second: string | null;
}) {
  const keyOf = (hash: string | null) => versions.find((one) => one.hash === hash)?.key ?? null;
  const [pair, setPair] = useState<[string | null, string | null] | null>(null);
  const [a, b] = pair ?? [keyOf(first), keyOf(second)];
  const hashOf = (key: string | null) => versions.find((one) => one.key === key)?.hash ?? null;
  const options = versions.map(({ key, label }) => ({ value: key, label }));
  if (versions.length === 0) return <p className="quiet">There is no version of this file.</p>;
  return (
    <>
      <div className="beside-heads">
        <Select aria-label="Left" options={options} value={a} onChange={(key) => setPair([key, b])} />
        <Select aria-label="Right" options={options} value={b} onChange={(key) => setPair([a, key])} />
      </div>
      {hashOf(a) === hashOf(b) && <p className="quiet">Both are the same.</p>}
      <Difference path={path} a={hashOf(a)} b={hashOf(b)} />
    </>
  );
}

interface HistoryProps {
  changes: ChangeItem[];
  path: string;
  now: string | null;
  restoring: boolean;
  onRestore: (hash: string) => void;
}

/** Saves of one file: who, when, what it changed, and the way back to it. */
export function FileHistory({ changes, path, now, restoring, onRestore }: HistoryProps) {
  const [open, setOpen] = useState<number | null>(null);
  if (!changes.length) return <p className="quiet">It was never saved in a draft: it is as its layer has it.</p>;
  return (
    <ol className="history">
      {changes.map(({ id, title, madeAt, madeBy, draft, files }) => {
        const file = files[0];
        if (!file) return null;
        return (
          <li key={id}>
            <div className="history-line">
              <button type="button" aria-expanded={open === id} onClick={() => setOpen(open === id ? null : id)}>
                {title === path ? (file.was === null ? 'Begun' : 'Saved') : title}
              </button>
              <small>
                <When at={madeAt} />
                {madeBy ? ` · ${madeBy}` : ''} · {draft}
              </small>
              {file.hash && file.hash !== now && (
                <Button size="small" loading={restoring} onClick={() => onRestore(file.hash as string)}>
                  Restore
                </Button>
              )}
            </div>
            {open === id && <Difference path={path} a={file.was} b={file.hash} />}
          </li>
        );
      })}
    </ol>
  );
}

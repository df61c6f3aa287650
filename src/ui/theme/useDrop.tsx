import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Button, Modal } from 'antd';
import { useState, type ReactNode } from 'react';
import type { Refusal } from '@/contract/shared';
import { fileEndpoints, type OnTaken } from '@/contract/files';
import { call, draftChanged, ApiError, useDone } from '@/ui/shared';

interface Dropped {
  files: File[];
  folder: string;
  taken?: OnTaken;
}

const list = (paths: readonly string[]): string =>
  paths.length === 1 ? `${paths[0]} is` : `${paths.length} files are`;

/** Puts files into the shop's layer; where their place is taken, that is shown and asked (`question`). What was done can be undone. */
export function useDrop(
  draft: string,
  onDropped: (paths: string[]) => void,
): { drop: (files: File[], folder: string) => void; pending: boolean; error: Error | null; question: ReactNode } {
  const queries = useQueryClient();
  const done = useDone(draft);
  const [asked, setAsked] = useState<(Dropped & { there: NonNullable<Refusal['there']> }) | null>(null);
  const work = useMutation({
    mutationFn: ({ files, folder, taken = 'ask' }: Dropped) => {
      const form = new FormData();
      form.set('folder', folder);
      form.set('taken', taken);
      for (const file of files) form.append('file', file);
      return call(fileEndpoints.drop, { draft }, form);
    },
    onError: (error, dropped) => {
      if (error instanceof ApiError && error.body.there) setAsked({ ...dropped, there: error.body.there });
    },
    onSuccess: ({ paths, change }) => {
      done(
        change === null ? 'Nothing was taken: all of it was there already.' : `${list(paths)} in the shop’s layer.`,
        change,
      );
      onDropped(paths);
      void draftChanged(queries, draft);
    },
  });
  const answer = (taken: OnTaken | null) => {
    if (asked && taken) work.mutate({ files: asked.files, folder: asked.folder, taken });
    setAsked(null);
  };
  const free = asked ? asked.files.length - asked.there.length : 0;
  return {
    drop: (files, folder) => work.mutate({ files, folder }),
    pending: work.isPending,
    error: asked || (work.error instanceof ApiError && work.error.body.there) ? null : work.error,
    question: asked && (
      <Modal
        open
        title={
          asked.there.length === 1 ? 'This file is there already' : `${asked.there.length} files are there already`
        }
        onCancel={() => answer(null)}
        footer={
          <>
            <Button onClick={() => answer(null)}>Leave all as it is</Button>
            {free > 0 && <Button onClick={() => answer('skip')}>Take the {free} new only</Button>}
            <Button type="primary" onClick={() => answer('replace')}>
              Put them in their place
            </Button>
          </>
        }
      >
        <ul className="there-list">
          {asked.there.map(({ path, layer }) => (
            <li key={path}>
              <code>{path}</code>{' '}
              {layer.kind === 'shop'
                ? 'is the shop’s own: it would be replaced.'
                : `is in ${layer.name} (${layer.kind}): yours would serve in its place.`}
            </li>
          ))}
        </ul>
        <p className="quiet">What was there stays in the history, and can be restored.</p>
      </Modal>
    ),
  };
}

'use client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Button, Modal } from 'antd';
import { useState, type ReactNode } from 'react';
import { layerEndpoints, type VersionItem } from '@/contract/layers';
import { call, ApiError } from '@/ui/shared';

interface Brought {
  zip: File;
  /** What it is, where someone had to say. */
  kind?: 'base' | 'add-on';
}

/** Brings in a ZIP as a version of a base or add-on; where it does not say which, that is asked (`question`), not guessed. */
export function useBringVersion(onBrought: (version: VersionItem) => void): {
  bring: (zip: File) => void;
  pending: boolean;
  error: Error | null;
  question: ReactNode;
} {
  const queries = useQueryClient();
  const [unknown, setUnknown] = useState<{ zip: File; why: string } | null>(null);
  const work = useMutation({
    mutationFn: ({ zip, kind }: Brought) => call(layerEndpoints.addVersion, { kind }, zip),
    onError: (error, { zip }) => {
      if (error instanceof ApiError && error.body.code === 'kind') setUnknown({ zip, why: error.message });
    },
    onSuccess: (version) => {
      void queries.invalidateQueries({ queryKey: ['versions'] });
      onBrought(version);
    },
  });
  const as = (kind: 'base' | 'add-on') => {
    if (unknown) work.mutate({ zip: unknown.zip, kind });
    setUnknown(null);
  };
  return {
    bring: (zip) => work.mutate({ zip }),
    pending: work.isPending,
    error: unknown ? null : work.error,
    question: unknown && (
      <Modal
        open
        title="Is it a base or an add-on?"
        onCancel={() => setUnknown(null)}
        footer={
          <>
            <Button onClick={() => setUnknown(null)}>Leave it</Button>
            <Button onClick={() => as('add-on')}>It is an add-on</Button>
            <Button onClick={() => as('base')}>It is a base</Button>
          </>
        }
      >
        <p>{unknown.why}</p>
        <p className="quiet">A base takes the place of the one that a theme stands on. An add-on comes above it.</p>
      </Modal>
    ),
  };
}

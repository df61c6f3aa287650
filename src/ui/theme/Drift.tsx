'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Modal } from 'antd';
import dynamic from 'next/dynamic';
import { layerEndpoints } from '@/contract/layers';
import { call, draftChanged, messageOf } from '@/ui/shared';

const MergeDialog = dynamic(() => import('@/ui/source').then((one) => one.MergeDialog), { ssr: false });

/** A file that drifted, merged with what is below it now: what only one side changed is in already. */
export function Drift({ draft, path, onClose }: { draft: string; path: string; onClose: () => void }) {
  const { message } = App.useApp();
  const queries = useQueryClient();
  const drift = useQuery({
    queryKey: ['drift', draft, path],
    queryFn: () => call(layerEndpoints.drift, { draft, path }),
  });
  const settle = useMutation({
    mutationFn: (text: string) =>
      call(
        layerEndpoints.settle,
        { draft },
        {
          path,
          text,
          expected: drift.data?.hash ?? '',
          below: drift.data?.belowHash ?? '',
        },
      ),
    onSuccess: () => {
      void message.success(`${path} holds both now`);
      void draftChanged(queries, draft);
      onClose();
    },
  });
  const failed = drift.error ?? settle.error;
  if (failed)
    return (
      <Modal open title={`Both texts of ${path}`} footer={null} onCancel={onClose}>
        <Alert type="error" showIcon title={messageOf(failed)} />
      </Modal>
    );
  if (!drift.data) return null;
  const { origin, below, own, originOf, belowOf } = drift.data;
  return (
    <MergeDialog
      path={path}
      base={origin}
      mine={own}
      theirs={below ?? ''}
      theirsName={`${belowOf}${originOf ? `, after ${originOf}` : ''}`}
      onClose={onClose}
      onMerged={(text) => settle.mutate(text)}
    />
  );
}

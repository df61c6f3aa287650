'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App } from 'antd';
import { historyEndpoints } from '@/contract/history';
import { call, draftChanged, messageOf } from '@/ui/shared';
import { FileHistory } from '@/ui/theme';

interface Props {
  draft: string;
  path: string;
  /** Hash of the shop's own now; null: it has none. */
  now: string | null;
  onRestored: () => void;
}

/** Saves of the open file, in any draft, and the way back to each. */
export function FileHistoryTab({ draft, path, now, onRestored }: Props) {
  const { message } = App.useApp();
  const queries = useQueryClient();
  const history = useQuery({
    queryKey: ['history', 'file', path],
    queryFn: () => call(historyEndpoints.list, { draft, path }),
  });
  const restore = useMutation({
    mutationFn: (hash: string) => call(historyEndpoints.restore, { draft }, { path, hash, expected: now }),
    onSuccess: () => {
      void message.success('That version is the shop’s own again');
      void draftChanged(queries, draft);
      onRestored();
    },
  });
  const failed = history.error ?? restore.error;
  return (
    <div className="history-tab">
      {failed && <Alert type="error" showIcon title={messageOf(failed)} />}
      <FileHistory
        changes={history.data ?? []}
        path={path}
        now={now}
        restoring={restore.isPending}
        onRestore={(hash) => restore.mutate(hash)}
      />
    </div>
  );
}

'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Input, Skeleton } from 'antd';
import { useState } from 'react';
import { historyEndpoints, type ChangeItem } from '@/contract/history';
import { call, draftChanged, messageOf, When } from '@/ui/shared';
import { Difference } from '@/ui/source';

/** What was done in a draft, the latest first: each change with its files, to be read, named, and undone as one. */
export function History({ draft }: { draft: string }) {
  const { message } = App.useApp();
  const queries = useQueryClient();
  const [open, setOpen] = useState<number | null>(null);
  const [naming, setNaming] = useState<{ id: number; title: string } | null>(null);
  const history = useQuery({
    queryKey: ['history', draft],
    queryFn: () => call(historyEndpoints.list, { draft }),
  });
  const back = useMutation({
    mutationFn: ({ id }: ChangeItem) => call(historyEndpoints.undo, { draft, change: id }),
    onSuccess: (_, { title }) => {
      void message.success(`Undone: ${title}`);
      void draftChanged(queries, draft);
    },
  });
  const rename = useMutation({
    mutationFn: ({ id, title }: { id: number; title: string }) =>
      call(historyEndpoints.rename, { draft, change: id }, { title }),
    onSuccess: () => {
      setNaming(null);
      void queries.invalidateQueries({ queryKey: ['history'] });
    },
  });
  if (history.isError) return <Alert type="error" showIcon title={messageOf(history.error)} />;
  if (!history.data) return <Skeleton active />;
  if (!history.data.length) return <p className="quiet">Nothing was changed in this draft yet.</p>;
  const failed = back.error ?? rename.error;
  return (
    <>
      {failed && <Alert type="error" showIcon closable title={messageOf(failed)} />}
      <ol className="history">
        {history.data.map((change) => (
          <li key={change.id}>
            {naming?.id === change.id ? (
              <Input
                autoFocus
                size="small"
                aria-label="Name of the change"
                value={naming.title}
                onChange={(event) => setNaming({ id: change.id, title: event.target.value })}
                onPressEnter={() => rename.mutate(naming)}
                onKeyDown={(event) => event.key === 'Escape' && setNaming(null)}
                onBlur={() => setNaming(null)}
              />
            ) : (
              <div className="history-line">
                <button
                  type="button"
                  aria-expanded={open === change.id}
                  onClick={() => setOpen(open === change.id ? null : change.id)}
                >
                  {change.title}
                </button>
                <small>
                  <When at={change.madeAt} />
                  {change.madeBy ? ` · ${change.madeBy}` : ''}
                </small>
              </div>
            )}
            {open === change.id && (
              <div className="history-open">
                {change.below && <p>Layers below: {change.below}</p>}
                {change.files.map(({ path, was, hash }) => (
                  <details key={path} open={change.files.length === 1}>
                    <summary>
                      <code>{path}</code>{' '}
                      <small>{was === null ? 'added' : hash === null ? 'removed' : 'changed'}</small>
                    </summary>
                    <Difference path={path} a={was} b={hash} />
                  </details>
                ))}
                <div className="draft-acts">
                  <Button size="small" onClick={() => setNaming({ id: change.id, title: change.title })}>
                    Name it
                  </Button>
                  {change.undoneBy === null ? (
                    <Button size="small" loading={back.isPending} onClick={() => back.mutate(change)}>
                      Undo it
                    </Button>
                  ) : (
                    <span className="quiet">undone</span>
                  )}
                </div>
              </div>
            )}
          </li>
        ))}
      </ol>
    </>
  );
}

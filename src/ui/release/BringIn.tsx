'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Checkbox } from 'antd';
import { useState } from 'react';
import { draftEndpoints, type CompareAnswer } from '@/contract/drafts';
import { call, draftChanged, messageOf } from '@/ui/shared';
import { Difference } from '@/ui/source';

const says = { taken: 'taken over', merged: 'merged', conflict: 'changed on both sides' };

interface Props {
  draft: string;
  /** Name of the state whose changes come, and what it is called. */
  from: string;
  name: string;
  /** Layers below in which the two differ: the other's first. */
  below: CompareAnswer['below'];
}

/** Brings another state's changes into the draft: what only one side changed goes by itself, the rest is chosen. */
export function BringIn({ draft, from, name, below }: Props) {
  const { message } = App.useApp();
  const queries = useQueryClient();
  /** Conflicts of which the other side is taken. */
  const [theirs, setTheirs] = useState<string[]>([]);
  const plan = useQuery({
    queryKey: ['bring', draft, from],
    queryFn: () => call(draftEndpoints.planBring, { draft, from }),
  });
  const files = plan.data?.files ?? [];
  const going = files.filter(({ path, outcome }) => outcome !== 'conflict' || theirs.includes(path));
  const bring = useMutation({
    mutationFn: () => call(draftEndpoints.bring, { draft }, { from, paths: going.map(({ path }) => path) }),
    onSuccess: () => {
      void message.success(`${going.length} ${going.length === 1 ? 'file' : 'files'} came in, as one change`);
      setTheirs([]);
      void draftChanged(queries, draft);
    },
  });
  const failed = plan.error ?? bring.error;
  return (
    <div className="publish" role="group" aria-label="Bring in">
      <h3>Bring what “{name}” changed into this draft</h3>
      {failed && <Alert type="error" showIcon title={messageOf(failed)} />}
      {below.map(({ a, b }) => (
        <Alert
          key={(a ?? b)?.name}
          type="info"
          showIcon
          title={`“${name}” stands on ${a ? `${a.name} ${a.version}` : `no ${b?.name ?? ''}`}, this draft on ${b ? `${b.name} ${b.version}` : 'none of it'}. Only the shop’s own files come: layers below are changed on the Theme screen.`}
        />
      ))}
      {plan.data && !files.length && <p className="quiet">All that it changed is here already.</p>}
      <ul className="bring-files">
        {files.map((file) => (
          <li key={file.path}>
            <span className={`outcome outcome-${file.outcome}`}>{says[file.outcome]}</span>
            <div>
              <code>{file.path}</code> <span className="quiet">{file.says}</span>
              {file.outcome === 'conflict' && (
                <>
                  <Checkbox
                    checked={theirs.includes(file.path)}
                    onChange={({ target }) =>
                      setTheirs(target.checked ? [...theirs, file.path] : theirs.filter((path) => path !== file.path))
                    }
                  >
                    Take theirs, in the place of mine
                  </Checkbox>
                  <Difference path={file.path} a={file.mine} b={file.theirs} />
                </>
              )}
            </div>
          </li>
        ))}
      </ul>
      {files.length > 0 && (
        <Button type="primary" disabled={!going.length} loading={bring.isPending} onClick={() => bring.mutate()}>
          Bring in {going.length} {going.length === 1 ? 'file' : 'files'}
        </Button>
      )}
    </div>
  );
}

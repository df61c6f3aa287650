'use client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Popconfirm, Skeleton } from 'antd';
import { releaseEndpoints, type ReleasesAnswer } from '@/contract/releases';
import { releaseBase } from '@/contract/addresses';
import { useAddresses, call, messageOf, When } from '@/ui/shared';

interface Props {
  releases: ReleasesAnswer | undefined;
  onCompare: (number: number) => void;
}

/** What went live, the latest first; any of it can be looked at, compared, and put back. */
export function Releases({ releases, onCompare }: Props) {
  const { message } = App.useApp();
  const queries = useQueryClient();
  const put = useMutation({
    mutationFn: ({ number, turn }: { number: number; turn: number }) =>
      call(releaseEndpoints.putLive, { number }, { turn }),
    onSuccess: (_, { number }) => {
      void message.success(`Release ${number} is live again`);
      void queries.invalidateQueries();
    },
  });
  const addresses = useAddresses();
  if (!releases) return <Skeleton active />;
  if (!releases.releases.length) return <p className="quiet">Nothing was published yet.</p>;
  return (
    <>
      {put.isError && <Alert type="error" showIcon closable title={messageOf(put.error)} />}
      <ol className="releases">
        {releases.releases.map(({ number, note, madeAt, madeBy, from, live, below }) => (
          <li key={number} data-live={live}>
            <div className="release-line">
              <strong>Release {number}</strong>
              {live && <span className="live-mark">live</span>}
            </div>
            {note && <p>{note}</p>}
            <p className="quiet">
              <When at={madeAt} />
              {madeBy ? ` · ${madeBy}` : ''}
              {from ? ` · from ${from}` : ''} · {below.map(({ name, version }) => `${name} ${version}`).join(', ')}
            </p>
            <div className="draft-acts">
              <a
                className="quiet-link"
                href={`${live ? addresses.shop : releaseBase(addresses, number)}/`}
                target="_blank"
                rel="noreferrer"
              >
                Look at it
              </a>
              {!live && (
                <>
                  <Button size="small" onClick={() => onCompare(number)}>
                    Compare with live
                  </Button>
                  <Popconfirm
                    title={`Put release ${number} live again?`}
                    description="Visitors get it at once. What is live now stays here, and can be put back in the same way."
                    okText={`Put release ${number} live`}
                    cancelText="Leave it"
                    onConfirm={() => put.mutate({ number, turn: releases.turn })}
                  >
                    <Button size="small" loading={put.isPending && put.variables?.number === number}>
                      Put live again
                    </Button>
                  </Popconfirm>
                </>
              )}
            </div>
          </li>
        ))}
      </ol>
    </>
  );
}

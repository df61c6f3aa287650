'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Modal, Skeleton } from 'antd';
import { useRouter } from 'next/navigation';
import { layerEndpoints, type UpdateAnswer, type VersionItem } from '@/contract/layers';
import { DifferingPages } from '@/ui/release';
import { callForLines, call, messageOf } from '@/ui/shared';

type Outcome = UpdateAnswer['touched'][number]['outcome'];

/** What happens to a file of the shop's own, in a word; those that need someone come first. */
const outcomes: Record<Outcome, string> = {
  conflict: 'to be looked at',
  lost: 'place gone',
  unsure: 'place unsure',
  breaks: 'has problems',
  covers: 'covers a new one',
  alone: 'stands alone now',
  merged: 'merged',
  moved: 'place moved',
  fits: 'still fits',
  needless: 'needless now',
};
const order = Object.keys(outcomes) as Outcome[];
const asks = new Set<Outcome>(['conflict', 'lost', 'unsure', 'breaks', 'covers', 'alone']);

const waits = ({ outcome, breaks }: UpdateAnswer['touched'][number]) => asks.has(outcome) || breaks !== undefined;

const counted = (files: UpdateAnswer['files']): string => {
  const kinds = (['changed', 'added', 'removed'] as const)
    .map((change) => [files.filter((one) => one.change === change).length, change] as const)
    .filter(([count]) => count)
    .map(([count, change]) => `${count} ${change}`);
  return kinds.length ? `${kinds.join(', ')} file${files.length === 1 ? '' : 's'}` : 'no other files';
};

/** What another version of a layer would change and touch; making it is a draft of its own. */
export function UpdateDialog({ draft, to, onClose }: { draft: string; to: VersionItem; onClose: () => void }) {
  const router = useRouter();
  const queries = useQueryClient();
  const plan = useQuery({
    queryKey: ['update', draft, to.id],
    queryFn: () => call(layerEndpoints.planUpdate, { draft, to: to.id }),
  });
  const make = useMutation({
    mutationFn: () => call(layerEndpoints.update, { draft }, { to: to.id }),
    onSuccess: ({ slug }) => {
      void queries.invalidateQueries();
      onClose();
      router.push(`/theme?${new URLSearchParams({ draft: slug, show: 'own' })}`);
    },
  });
  const touched = [...(plan.data?.touched ?? [])].sort((a, b) => order.indexOf(a.outcome) - order.indexOf(b.outcome));
  const waiting = touched.filter(waits).length;
  const failed = plan.error ?? make.error;
  return (
    <Modal
      open
      width={720}
      title={`${to.name} ${to.version}${plan.data?.from ? ` in the place of ${plan.data.from.version}` : ''}`}
      okText="Make a draft with it"
      cancelText="Not now"
      okButtonProps={{ disabled: !plan.data, loading: make.isPending }}
      onOk={() => make.mutate()}
      onCancel={onClose}
    >
      {failed && <Alert type="error" showIcon title={messageOf(failed)} />}
      {plan.isLoading && <Skeleton active />}
      {plan.data && (
        <>
          <p>
            It brings {counted(plan.data.files)}.{' '}
            {touched.length === 0
              ? 'Nothing of the shop’s own is touched.'
              : waiting
                ? `Of the shop’s own files ${touched.length} are touched; ${waiting} will wait for you to look.`
                : `Of the shop’s own files ${touched.length} are touched; all of it puts itself together.`}
          </p>
          {touched.length > 0 && (
            <ul className="touched" aria-label="Files of the shop that are touched">
              {touched.map((one) => (
                <li key={one.path} data-asks={waits(one)}>
                  <span className={`outcome outcome-${one.outcome}`}>{outcomes[one.outcome]}</span>
                  <div>
                    <code>{one.path}</code>
                    <p className="quiet">{one.says}</p>
                    {[...(one.lost ?? []), ...(one.breaks ?? [])].map(({ line, message }) => (
                      <p key={`${line} ${message}`} className="is-wrong">
                        Line {line}: {message}
                      </p>
                    ))}
                    {one.places?.map((place) => (
                      <PlaceLine key={place.line} {...place} />
                    ))}
                  </div>
                </li>
              ))}
            </ul>
          )}
          <details className="update-files">
            <summary>Files that it changes</summary>
            <ul className="change-list">
              {plan.data.files.map(({ path, change }) => (
                <li key={path}>
                  <code>{path}</code> <small>{change}</small>
                </li>
              ))}
            </ul>
          </details>
          <DifferingPages
            find={(heard, signal) =>
              callForLines(layerEndpoints.updatedPages, { draft, to: to.id }, undefined, heard, signal)
            }
            a={`draft/${draft}`}
            b={null}
          />
          <p className="quiet">The draft you are in and what is live stay as they are.</p>
        </>
      )}
    </Modal>
  );
}

/** Where a place by path stands after the update. */
function PlaceLine({ line, was, is, certain, other }: NonNullable<UpdateAnswer['touched'][number]['places']>[number]) {
  return (
    <p className={certain ? 'quiet' : 'is-wrong'}>
      Line {line}: <code>{was}</code>{' '}
      {is === null ? (
        'is gone'
      ) : (
        <>
          is {certain ? 'now' : 'likely'} <code>{is}</code>
          {!certain && other !== null && (
            <>
              , or <code>{other}</code>
            </>
          )}
        </>
      )}
    </p>
  );
}

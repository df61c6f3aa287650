'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Skeleton } from 'antd';
import { statusEndpoints, type StatusAnswer } from '@/contract/status';
import { call, messageOf, When } from '@/ui/shared';

const parts: Record<string, string> = { shop: 'The shop', drafts: 'Drafts', workbench: 'The workbench' };
const many = (count: number, one: string, more = `${one}s`): string =>
  `${count.toLocaleString('en-GB')} ${count === 1 ? one : more}`;

/** Whether Last is well, and what it has done since it started. */
export function Status() {
  const { data, error } = useQuery({
    queryKey: ['status'],
    queryFn: () => call(statusEndpoints.now, {}),
    refetchInterval: 5000,
  });
  if (error && !data) return <Alert type="error" showIcon title={messageOf(error)} />;
  if (!data) return <Skeleton active />;
  return (
    <section aria-label="Status" className="status">
      {error && <Alert type="warning" showIcon title={`${messageOf(error)} What is shown is from before.`} />}
      {data.faults.map((fault) => (
        <Alert key={fault} type="error" showIcon title={fault} />
      ))}
      {!data.faults.length && <Alert type="success" showIcon title="All is well." />}
      {data.stuck && (
        <Alert
          type="warning"
          showIcon
          title={`${many(data.stuck.count, 'message')} about orders could not be sent. ${data.stuck.said}`}
        />
      )}
      <Answers answers={data.answers} />
      <dl>
        <dt>Running</dt>
        <dd>
          since <When at={data.since} />, on Node.js {data.node}, with {data.memoryMb} MB of memory
        </dd>
        <dt>Live</dt>
        <dd>
          {data.liveRelease === null ? 'nothing' : `release ${data.liveRelease}`}, with the goods at revision{' '}
          {data.goodsRevision}
        </dd>
        <dt>Pages</dt>
        <dd>
          {many(data.pages.made, 'made', 'made')}, {data.pages.again} made again after a change, {data.pages.same} found
          to be the same after one
        </dd>
        <dt>Waiting</dt>
        <dd>
          {many(data.waiting.live, 'page')} of the shop, {many(data.waiting.preview, 'piece')} of work of the workbench
        </dd>
        <dt>Orders</dt>
        <dd>
          {data.orders.new} new, {data.orders.taken} taken, {data.orders.cancelled} cancelled
        </dd>
        <dt>Feed</dt>
        <dd>
          {data.lastFeed ? (
            <>
              {many(data.lastFeed.records, 'record')} changed by {data.lastFeed.by}, <When at={data.lastFeed.at} />
            </>
          ) : (
            'No goods came from another system yet.'
          )}
        </dd>
      </dl>
    </section>
  );
}

function Answers({ answers }: { answers: StatusAnswer['answers'] }) {
  return (
    <table className="status-answers">
      <thead>
        <tr>
          <th>Asked</th>
          <th>Answers</th>
          <th>Failed</th>
          <th>95 of 100 within</th>
        </tr>
      </thead>
      <tbody>
        {answers.map(({ part, count, failed, p95Ms }) => (
          <tr key={part}>
            <th scope="row">{parts[part] ?? part}</th>
            <td>{count.toLocaleString('en-GB')}</td>
            <td>{failed.toLocaleString('en-GB')}</td>
            <td>{p95Ms === null ? 'more than 10 s' : p95Ms < 1000 ? `${p95Ms} ms` : `${p95Ms / 1000} s`}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

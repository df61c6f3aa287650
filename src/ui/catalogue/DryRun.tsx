'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Popconfirm, Skeleton, Tabs } from 'antd';
import { useState } from 'react';
import { useStore } from 'zustand';
import { addressOf } from '@/contract/endpoint';
import { goodsEndpoints, type DryRunStep, type GoodsEffects } from '@/contract/goods';
import { call, messageOf } from '@/ui/shared';
import type { Importing } from './import-store';

type Result = NonNullable<DryRunStep['result']>;
type What = 'added' | 'changed' | 'removed';

const kinds: Record<string, [one: string, several: string]> = {
  product: ['product', 'products'],
  brand: ['brand', 'brands'],
  tag: ['tag', 'tags'],
  category: ['category', 'categories'],
  field: ['custom field', 'custom fields'],
  content: ['content page', 'content pages'],
  article: ['article', 'articles'],
  menu: ['menu', 'menus'],
  shop: ['shop', 'shops'],
};
const kindIn = (kind: string, count: number): string => (kinds[kind] ?? [kind, kind])[count === 1 ? 0 : 1];

interface Props {
  importing: Importing;
  upload: string;
  result: Result;
}

/** What an import would do, record by record and field by field, what cannot be taken, and the way to do it. */
export function DryRun({ importing, upload, result }: Props) {
  const { busy, mode, look } = useStore(importing.state);
  const of = (what: What) => result.counts.filter((one) => one.what === what);
  const total = (what: What) => of(what).reduce((sum, { count }) => sum + count, 0);
  const all = total('added') + total('changed') + total('removed');
  const says = (what: What) =>
    of(what)
      .map(({ kind, count }) => `${count.toLocaleString('en')} ${kindIn(kind, count)}`)
      .join(', ');
  const first: What = (['changed', 'added', 'removed'] as const).find((what) => total(what)) ?? 'added';
  const removes = total('removed') > 0;
  const { effects } = result;
  const wrong = effects ? effects.problems.length + effects.assignments.length : 0;
  const go = (
    <Button
      type="primary"
      size="large"
      disabled={busy !== null || all === 0}
      loading={busy?.what === 'import'}
      {...(removes ? {} : { onClick: () => void importing.import() })}
    >
      {all === 0 ? 'Nothing to import' : `Import: ${all.toLocaleString('en')} ${all === 1 ? 'record' : 'records'}`}
    </Button>
  );
  return (
    <div className="dry-run">
      <div className="dry-run-sums">
        {(['added', 'changed', 'removed'] as const).map((what) => (
          <div key={what} className={`dry-run-sum is-${what}`}>
            <strong>{total(what).toLocaleString('en')}</strong> {what}
            <span className="quiet">{says(what) || 'none'}</span>
          </div>
        ))}
        {effects && (
          <div className={`dry-run-sum ${wrong ? 'is-wrong' : ''}`}>
            <strong>{wrong.toLocaleString('en')}</strong> {wrong === 1 ? 'problem' : 'problems'} on pages
            <span className="quiet">
              {effects.pages} {effects.pages === 1 ? 'page was' : 'pages were'} made with it
            </span>
          </div>
        )}
        <div className={`dry-run-sum ${result.errors ? 'is-wrong' : ''}`}>
          <strong>{result.errors.toLocaleString('en')}</strong> cannot be taken
          <span className="quiet">
            {result.warnings ? `${result.warnings.toLocaleString('en')} more to look at` : 'nothing else to look at'}
          </span>
        </div>
      </div>
      {mode === 'replace' && removes && (
        <Alert
          type="warning"
          showIcon
          title={`“Replace all goods” removes ${says('removed')} that the file does not have.`}
        />
      )}
      <Tabs
        size="small"
        defaultActiveKey={result.errors ? 'issues' : wrong ? 'pages' : first}
        items={[
          ...(['added', 'changed', 'removed'] as const)
            .filter((what) => total(what))
            .map((what) => ({
              key: what,
              label: `${what.charAt(0).toUpperCase()}${what.slice(1)} (${total(what).toLocaleString('en')})`,
              children: <Changes key={what} upload={upload} what={what} total={total(what)} />,
            })),
          ...(effects && (wrong > 0 || effects.templates.length > 0)
            ? [
                {
                  key: 'pages',
                  label: `On pages (${wrong + effects.templates.length})`,
                  children: <OnPages of={effects} />,
                },
              ]
            : []),
          ...(result.errors + result.warnings
            ? [
                {
                  key: 'issues',
                  label: `Cannot be taken, to look at (${(result.errors + result.warnings).toLocaleString('en')})`,
                  children: <Issues upload={upload} result={result} />,
                },
              ]
            : []),
        ]}
      />
      <div className="import-go">
        {removes ? (
          <Popconfirm
            title={`Remove ${says('removed')}?`}
            description="It can be undone afterwards."
            okText="Import and remove"
            onConfirm={() => void importing.import()}
            disabled={busy !== null}
          >
            {go}
          </Popconfirm>
        ) : (
          go
        )}
        {look?.table && (
          <Button onClick={() => importing.back()} disabled={busy !== null}>
            Back to the columns
          </Button>
        )}
        <span className="quiet">
          {result.errors > 0 && 'What cannot be taken is left out. '}
          Goods are live at once, on every page; one step undoes it.
        </span>
      </div>
    </div>
  );
}

function Changes({ upload, what, total }: { upload: string; what: What; total: number }) {
  const [pages, setPages] = useState(1);
  const size = 50;
  const list = useQuery({
    queryKey: ['goods-changes', upload, what, pages],
    queryFn: async () =>
      (
        await Promise.all(
          Array.from({ length: pages }, (_, page) => call(goodsEndpoints.changes, { upload, what, from: page * size })),
        )
      ).flat(),
    placeholderData: (before) => before,
  });
  if (list.error) return <Alert type="error" showIcon title={messageOf(list.error)} />;
  if (!list.data) return <Skeleton active />;
  return (
    <div className="dry-run-changes">
      <table>
        <thead>
          <tr>
            <th scope="col">Record</th>
            <th scope="col">Field</th>
            <th scope="col">Now</th>
            <th scope="col">Then</th>
          </tr>
        </thead>
        <tbody>
          {list.data.flatMap(({ kind, slug, fields }) =>
            (fields.length ? fields : [{ field: '', before: '', after: '' }]).map(
              ({ field, before, after }, at, { length }) => (
                <tr key={`${kind} ${slug} ${field}`} data-first={at === 0 || undefined}>
                  {at === 0 && (
                    <th scope="rowgroup" rowSpan={length}>
                      <span className="quiet">{kindIn(kind, 1)}</span> {slug}
                    </th>
                  )}
                  <td>{field}</td>
                  <td className="dry-run-before">{before}</td>
                  <td>{after}</td>
                </tr>
              ),
            ),
          )}
        </tbody>
      </table>
      {list.data.length < total && (
        <Button size="small" loading={list.isFetching} onClick={() => setPages(pages + 1)}>
          Show more
        </Button>
      )}
    </div>
  );
}

function Issues({ upload, result }: { upload: string; result: Result }) {
  return (
    <div className="dry-run-changes">
      <table>
        <thead>
          <tr>
            <th scope="col">Line</th>
            <th scope="col">Column</th>
            <th scope="col">What is wrong</th>
          </tr>
        </thead>
        <tbody>
          {result.issues.map(({ line, column, message, severity }, at) => (
            <tr key={at} className={`is-${severity}`} data-first>
              <td>{line || ''}</td>
              <td>{column}</td>
              <td>
                {severity === 'warning' && <span className="quiet">to look at: </span>}
                {message}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button size="small" href={addressOf(goodsEndpoints.issues, { upload })} download>
        Download all as CSV
      </Button>
    </div>
  );
}

/** What an import would do to pages: other templates, and what would be wrong. */
function OnPages({ of: { rehearsed, of, templates, assignments, problems } }: { of: GoodsEffects }) {
  return (
    <div className="dry-run-changes">
      <ul className="dry-run-pages">
        {assignments.map((says) => (
          <li key={says} className="is-error">
            {says}.
          </li>
        ))}
        {problems.map(({ page, file, line, message }) => (
          <li key={`${page} ${file} ${line} ${message}`} className="is-error">
            <code>{page}</code>: {message} <small className="quiet">{`${file}, line ${line}`}</small>
          </li>
        ))}
        {templates.map(({ from, to, count, examples }) => (
          <li key={`${from} ${to}`}>
            {count.toLocaleString('en')} {count === 1 ? 'product gets' : 'products get'} <strong>{to}</strong>
            {from && ` instead of ${from}`}:{' '}
            <span className="quiet">
              {examples.join(', ')}
              {count > examples.length && ', …'}
            </span>
          </li>
        ))}
      </ul>
      <p className="quiet">
        The live shop was made with it and put back
        {rehearsed < of &&
          `, with ${rehearsed.toLocaleString('en')} records from all over its ${of.toLocaleString('en')}`}
        .
      </p>
    </div>
  );
}

'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Select, Skeleton } from 'antd';
import { useState } from 'react';
import { draftEndpoints, type DraftItem } from '@/contract/drafts';
import type { ReleasesAnswer } from '@/contract/releases';
import { OpenComments } from '@/ui/comments';
import { callForLines, call, messageOf, ReviewAsked } from '@/ui/shared';
import { Difference } from '@/ui/source';
import { BringIn } from './BringIn';
import { DifferingPages } from './DifferingPages';
import { Publish } from './Publish';

interface Props {
  draft: string;
  /** Names of the two states. */
  a: string;
  b: string;
  drafts: DraftItem[];
  releases: ReleasesAnswer | undefined;
  onCompare: (a: string, b: string) => void;
}

const signs = { added: '+', changed: '≠', removed: '−' };

/** What differs from one state to another, and what can be done about it. */
export function Differences({ draft, a, b, drafts, releases, onCompare }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const compared = useQuery({
    queryKey: ['compare', a, b],
    queryFn: () => call(draftEndpoints.compare, { a, b }),
    enabled: a !== b,
  });
  const states = [
    { value: 'live', label: 'Live' },
    ...drafts.map(({ slug, name }) => ({ value: `draft/${slug}`, label: name })),
    ...(releases?.releases ?? []).map(({ number }) => ({ value: `release/${number}`, label: `Release ${number}` })),
  ];
  const here = `draft/${draft}`;
  const found = compared.data;
  const nothing = found && !found.files.length && !found.below.length;
  return (
    <section className="release-what" aria-labelledby="what-title">
      <div className="what-head">
        <h2 id="what-title">What changes</h2>
        <label>
          from
          <Select
            aria-label="From"
            options={states}
            value={a}
            onChange={(next) => onCompare(next, b)}
            popupMatchSelectWidth={false}
          />
        </label>
        <label>
          to
          <Select
            aria-label="To"
            options={states}
            value={b}
            onChange={(next) => onCompare(a, next)}
            popupMatchSelectWidth={false}
          />
        </label>
      </div>
      {a === 'live' && b === here && (
        <>
          <ReviewAsked draft={draft} />
          <OpenComments draft={draft} />
        </>
      )}
      {compared.isError && <Alert type="error" showIcon title={messageOf(compared.error)} />}
      {a === b && <p className="empty">These are the same. Choose two to compare.</p>}
      {compared.isLoading && <Skeleton active />}
      {nothing && (
        <p className="empty">
          {a === 'live' && b === here
            ? 'This draft is the same as what is live. Change something on the Bench first.'
            : 'Nothing differs between these two.'}
        </p>
      )}
      {found && !nothing && (
        <>
          {found.below.length > 0 && (
            <ul className="change-list" aria-label="Layers below">
              {found.below.map(({ a: one, b: other }) => (
                <li key={(other ?? one)?.name}>
                  <span>{one ? (other ? '≠' : '−') : '+'}</span> {(other ?? one)?.name} {one?.version}
                  {one && other ? ' → ' : ' '}
                  {other?.version} <small>{(other ?? one)?.kind}</small>
                </li>
              ))}
            </ul>
          )}
          <h3>
            {found.files.length} {found.files.length === 1 ? 'file' : 'files'}
          </h3>
          <ul className="change-files" aria-label="Files that differ">
            {found.files.map((file) => (
              <li key={file.path}>
                <button
                  type="button"
                  aria-expanded={open === file.path}
                  onClick={() => setOpen(open === file.path ? null : file.path)}
                >
                  <span title={file.change}>{signs[file.change]}</span> <code>{file.path}</code>
                  <small>
                    {file.change} · {file.layer}
                  </small>
                </button>
                {open === file.path && <Difference path={file.path} a={file.a} b={file.b} />}
              </li>
            ))}
          </ul>
          {found.assignments.length > 0 && (
            <>
              <h3>Assignments</h3>
              <ul className="change-list">
                {found.assignments.map((said) => (
                  <li key={said}>{said}</li>
                ))}
              </ul>
            </>
          )}
          <DifferingPages
            find={(heard, signal) => callForLines(draftEndpoints.comparePages, { a, b }, undefined, heard, signal)}
            a={a}
            b={b}
          />
        </>
      )}
      {a === 'live' && b === here && <Publish draft={draft} looked={found ?? null} nothing={nothing ?? true} />}
      {b === here && a !== here && a !== 'live' && (
        <BringIn draft={draft} from={a} name={found?.a ?? ''} below={found?.below ?? []} />
      )}
    </section>
  );
}

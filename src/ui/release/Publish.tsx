'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Input } from 'antd';
import Link from 'next/link';
import { useState } from 'react';
import { alternateEndpoints } from '@/contract/alternates';
import { draftEndpoints, type CompareAnswer } from '@/contract/drafts';
import { AssignmentProblems } from '@/ui/alternates';
import { call, messageOf } from '@/ui/shared';

interface Props {
  draft: string;
  /** What differs, as it is shown: that is what is published, or nothing. Null: it is being asked for. */
  looked: Pick<CompareAnswer, 'revision' | 'turn'> | null;
  nothing: boolean;
}

/** The checks, and the one step that puts a draft live. */
export function Publish({ draft, looked, nothing }: Props) {
  const { message } = App.useApp();
  const queries = useQueryClient();
  const [note, setNote] = useState('');
  const checks = useQuery({
    queryKey: ['changes', draft],
    queryFn: () => call(draftEndpoints.changes, { draft }),
  });
  const assignments = useQuery({
    queryKey: ['assignment-problems', draft],
    queryFn: () => call(alternateEndpoints.problems, { draft }),
  });
  const publish = useMutation({
    mutationFn: () => {
      if (!looked) throw new Error('What would change is still being worked out.');
      const { revision, turn } = looked;
      return call(draftEndpoints.publish, { draft }, { note, revision, turn });
    },
    onSuccess: ({ number }) => {
      void message.success(`Release ${number} is live`);
      setNote('');
      void queries.invalidateQueries();
    },
    // What is live now may be another than was looked at.
    onError: () => void queries.invalidateQueries(),
  });
  const problems = checks.data?.problems ?? [];
  const unfit = assignments.data?.problems ?? [];
  const errors = problems.filter(({ severity }) => severity === 'error');
  const warnings = problems.filter(({ severity }) => severity === 'warning');
  return (
    <div className="publish" role="group" aria-label="Publish">
      <h3>Checks</h3>
      {checks.isLoading ? (
        <p className="quiet">Checking…</p>
      ) : problems.length === 0 && unfit.length > 0 ? null : problems.length === 0 ? (
        <p>Nothing is wrong.</p>
      ) : (
        <ul className="checks">
          {[...errors, ...warnings].slice(0, 6).map((one) => (
            <li
              key={`${one.file} ${one.line} ${one.code} ${one.message}`}
              className={one.severity === 'error' ? 'is-wrong' : ''}
            >
              <Link href={`/bench?${new URLSearchParams({ draft, file: one.file })}`}>
                <code>
                  {one.file}:{one.line}
                </code>
              </Link>{' '}
              {one.message}
            </li>
          ))}
          {errors.length + warnings.length > 6 && <li>and {errors.length + warnings.length - 6} more</li>}
        </ul>
      )}
      {unfit.length > 0 && (
        <>
          <p>
            <Link href={`/alternates?${new URLSearchParams({ draft, show: 'problems' })}`}>Assignments</Link> that are
            not as they should be:
          </p>
          <AssignmentProblems draft={draft} wrong={[]} problems={unfit} />
        </>
      )}
      {errors.length > 0 && (
        <Alert
          type="error"
          showIcon
          title={
            errors.length === 1
              ? 'One error keeps this draft from going live'
              : `${errors.length} errors keep this draft from going live`
          }
        />
      )}
      {publish.isError && <Alert type="error" showIcon title={messageOf(publish.error)} />}
      <form
        className="publish-form"
        onSubmit={(event) => {
          event.preventDefault();
          publish.mutate();
        }}
      >
        <Input
          aria-label="Note"
          value={note}
          maxLength={500}
          placeholder="What this release is for"
          onChange={(event) => setNote(event.target.value)}
        />
        <Button
          type="primary"
          htmlType="submit"
          disabled={nothing || errors.length > 0 || !checks.data || !looked}
          loading={publish.isPending}
        >
          Publish
        </Button>
      </form>
      <p className="quiet">
        Visitors get all of it at once, from their next page on. Any release can be put live again.
      </p>
    </div>
  );
}

'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Select, Skeleton } from 'antd';
import Link from 'next/link';
import { alternateEndpoints, ExplanationItem, SaidOutcome } from '@/contract/alternates';
import { call, messageOf } from '@/ui/shared';
import { useEdits } from './useEdits';
import './alternates.css';

/** Why a page gets its templates: each pin and rule, held or not, with the values that decided; and one step to pin it. */
export function Explain({
  draft,
  address,
  on,
  fresh,
}: {
  draft: string;
  address: string;
  on: string | null;
  fresh: string;
}) {
  const explained = useQuery({
    queryKey: ['explain', draft, address, on, fresh],
    queryFn: () => call(alternateEndpoints.explain, { draft, address, on: on ?? undefined }),
    placeholderData: (before) => before,
  });
  if (explained.isError) return <Alert type="error" showIcon title={messageOf(explained.error)} />;
  if (!explained.data) return <Skeleton active title={false} />;
  const { subject, explanations } = explained.data;
  const query = new URLSearchParams({ draft, page: address, ...(on === null ? {} : { on }) });
  return (
    <div className="explain">
      <p className="explain-who">
        <strong>{subject.name}</strong> <small>{subject.kind}</small>{' '}
        <Link className="quiet-link" href={`/bench?${query.toString()}`}>
          Open on the Bench
        </Link>
      </p>
      {explanations.map((one) => (
        <Explanation key={one.target.piece ?? ''} draft={draft} slug={subject.slug} of={one} />
      ))}
    </div>
  );
}

function Explanation({ draft, slug, of }: { draft: string; slug: string; of: ExplanationItem }) {
  const { target, label, because, steps, choices } = of;
  const edits = useEdits(draft);
  const pinned = steps.some((step) => step.kind === 'pin' && step.held);
  let number = 0;
  return (
    <section className="explanation" aria-label={target.piece ?? 'its page'}>
      <p className="why-gets">
        {target.piece === undefined ? 'gets' : <>in {target.piece} gets</>} <strong>{label}</strong>
        <small> {because === 'default' ? '' : `by ${because}`}</small>
      </p>
      <ol className="why-steps">
        {steps.map((step) => {
          const name = step.kind === 'pin' ? 'Pin' : step.kind === 'rule' ? `Rule ${++number}` : 'default';
          return (
            <li key={step.id ?? step.kind} data-decides={step.decides || undefined} data-held={step.held || undefined}>
              <span className="why-sign" aria-hidden="true">
                {step.decides ? '✓' : step.held ? '·' : '–'}
              </span>
              <div>
                <strong>{name}</strong> {step.kind !== 'default' && step.label && step.held ? `→ ${step.label}: ` : ''}
                {step.text}
                {step.outcome && <OutcomeLines of={step.outcome} />}
              </div>
            </li>
          );
        })}
      </ol>
      {choices.length > 1 && (
        <p className="explain-acts">
          <Select
            size="small"
            aria-label={`Pin it${target.piece === undefined ? '' : ` in ${target.piece}`} to`}
            placeholder="Pin it to…"
            value={null}
            popupMatchSelectWidth={200}
            options={choices.map((one) => ({ value: one.name, label: one.label }))}
            onChange={(alternate: string | null) => {
              if (alternate === null) return;
              edits.edit(
                { do: 'pin', ...target, slugs: [slug], alternate },
                `Pinned to ${choices.find((one) => one.name === alternate)?.label}.`,
              );
            }}
          />
          {pinned && (
            <Button
              size="small"
              onClick={() => edits.edit({ do: 'pin', ...target, slugs: [slug], alternate: null }, 'Pin removed.')}
            >
              Unpin
            </Button>
          )}
        </p>
      )}
    </section>
  );
}

/** How the parts of a condition came out, each with the value that decided. */
function OutcomeLines({ of }: { of: SaidOutcome }) {
  const sign = <span aria-label={of.held ? 'holds' : 'does not hold'}>{of.held ? '✓' : '–'}</span>;
  if (of.value !== null)
    return (
      <p className="why-part" data-held={of.held || undefined}>
        {sign} {of.text}; here <strong>{of.value}</strong>
      </p>
    );
  // A lone question needs no group around it.
  if (of.parts.length === 1 && of.text === 'all of these') return <OutcomeLines of={of.parts[0] as SaidOutcome} />;
  return (
    <div className="why-parts" data-held={of.held || undefined}>
      <p className="why-part">
        {sign} {of.text}
      </p>
      {of.parts.map((part, at) => (
        <OutcomeLines key={at} of={part} />
      ))}
    </div>
  );
}

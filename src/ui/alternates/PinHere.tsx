'use client';
import { Button } from 'antd';
import Link from 'next/link';
import type { PageAnswer } from '@/contract/bench';
import { pathOf } from '@/core/address';
import { useEdits } from './useEdits';

interface Props {
  draft: string;
  report: PageAnswer;
  tried: string | null;
  onChanged: () => void;
}

/** Under the page's tools: the alternate that is tried, pinned or given by a rule, and one step to pin this page to it or to take the pin out. */
export function PinHere({ draft, report, tried, onChanged }: Props) {
  const edits = useEdits(draft);
  const { subject, template, because, choices } = report;
  if (!subject) return null;
  const piece = tried?.startsWith('pieces/') ? choices.find((one) => one.name === tried) : undefined;
  if (piece)
    return (
      <p className="pin-here">
        <span>
          Trying <strong>{piece.label}</strong>: nobody else sees this.
        </span>
        <Button size="small" onClick={onChanged}>
          As assigned
        </Button>
      </p>
    );
  if (because === 'default') return null;
  const name = template.split('/')[1] ?? '';
  const label = choices.find((one) => one.name === name)?.label ?? name;
  const pin = (alternate: string | null) =>
    edits.edit(
      { do: 'pin', kind: subject.kind, slugs: [subject.slug], alternate },
      alternate === null
        ? 'Pin removed.'
        : `${subject.name} pinned to ${choices.find((one) => one.name === alternate)?.label ?? alternate}.`,
      onChanged,
    );
  const why = (
    <Link
      className="quiet-link"
      href={`/alternates?draft=${draft}&of=${subject.kind}&why=${encodeURIComponent(pathOf(subject))}`}
    >
      Why?
    </Link>
  );
  return (
    <p className="pin-here">
      {because === 'tried' ? (
        <>
          <span>
            Trying <strong>{label}</strong>: nobody else sees this.
          </span>
          <Button size="small" loading={edits.isPending} onClick={() => pin(name)}>
            {name === 'default' ? 'Give this page default' : 'Pin this page to it'}
          </Button>
        </>
      ) : because === 'pin' ? (
        <>
          <span>
            This page is pinned to <strong>{label}</strong>.
          </span>
          {why}
          <Button size="small" loading={edits.isPending} onClick={() => pin(null)}>
            Unpin
          </Button>
        </>
      ) : (
        <>
          <span>
            This page gets <strong>{label}</strong> by a rule.
          </span>
          {why}
          <Button size="small" loading={edits.isPending} onClick={() => pin('default')}>
            Pin it to default
          </Button>
        </>
      )}
    </p>
  );
}

'use client';
import { Button } from 'antd';
import type { PageAnswer } from '@/contract/api';
import { usePins } from './usePins';

/** Under the page's tools: the alternate that is tried or pinned, and one step to pin this page to it or to take the pin out. */
export function PinHere({ draft, report, onChanged }: { draft: string; report: PageAnswer; onChanged: () => void }) {
  const pins = usePins(draft);
  const { subject, template, because, choices } = report;
  if (!subject) return null;
  const name = template.split('/')[1] ?? '';
  const label = choices.find((one) => one.name === name)?.label ?? name;
  const subjects = [{ kind: subject.kind, slug: subject.slug }];
  return (
    <p className="pin-here">
      {because === 'tried' ? (
        <>
          <span>
            Trying <strong>{label}</strong>: nobody else sees this.
          </span>
          <Button
            size="small"
            loading={pins.isPending}
            onClick={() => pins.mutate({ subjects, alternate: name }, { onSuccess: onChanged })}
          >
            {name === 'default' ? 'Give this page default' : 'Pin this page to it'}
          </Button>
        </>
      ) : (
        <>
          <span>
            This page is pinned to <strong>{label}</strong>.
          </span>
          <Button
            size="small"
            loading={pins.isPending}
            onClick={() => pins.mutate({ subjects, alternate: null }, { onSuccess: onChanged })}
          >
            Unpin
          </Button>
        </>
      )}
    </p>
  );
}

'use client';
import { useEffect, useState } from 'react';
import {
  alternateEndpoints,
  type AssignmentProblemItem,
  type CoverageItem,
  type CoverLine,
  type TargetItem,
} from '@/contract/alternates';
import { messageOf, callForLines } from '@/ui/shared';

export type By = 'category' | 'type';

interface Known {
  coverage: CoverageItem | null;
  problems: AssignmentProblemItem[] | null;
  switches: NonNullable<CoverLine['switches']> | null;
  /** Between 0 and 1, while it is worked out; null once it is known. */
  progress: number | null;
  failure: string | null;
}

const nothing: Known = { coverage: null, problems: null, switches: null, progress: 0, failure: null };

/** Who gets what, worked out on the server line by line; what was known before stays while it is computed again. */
export function useCover(draft: string, target: TargetItem, on: string | null, by: By, revision: string): Known {
  const [known, setKnown] = useState<Known & { of: string }>({ ...nothing, of: '' });
  const { kind, piece } = target;
  const of = `${draft} ${kind} ${piece ?? ''} ${by}`;
  useEffect(() => {
    const asking = new AbortController();
    const body = { target: piece === undefined ? { kind } : { kind, piece }, on, by };
    const heard = (line: CoverLine) => {
      if (asking.signal.aborted) return;
      setKnown((before) => {
        const kept = before.of === of ? before : { ...nothing, problems: before.problems, of };
        return {
          of,
          coverage: line.coverage ?? kept.coverage,
          problems: line.problems ?? kept.problems,
          switches: line.switches ?? kept.switches,
          progress: line.coverage || line.done ? null : line.progress.done / Math.max(1, line.progress.of),
          failure: null,
        };
      });
    };
    callForLines(alternateEndpoints.cover, { draft }, body, heard, asking.signal).catch((error: unknown) => {
      if (!asking.signal.aborted) setKnown((before) => ({ ...before, of, progress: null, failure: messageOf(error) }));
    });
    return () => asking.abort();
  }, [draft, kind, piece, on, by, revision, of]);
  return known.of === of ? known : { ...nothing, problems: known.problems };
}

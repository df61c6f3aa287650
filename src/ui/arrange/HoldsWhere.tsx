'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Skeleton } from 'antd';
import { useState } from 'react';
import { alternateEndpoints } from '@/contract/alternates';
import type { SubjectKind } from '@/contract/shared';
import type { Condition } from '@/core/alternates';
import { ConditionEditor, filledIn } from '@/ui/alternates';
import { call, messageOf } from '@/ui/shared';

interface Props {
  draft: string;
  kind: SubjectKind;
  when: Condition;
  onChange: (when: Condition) => void;
}

/** The condition under which a placement stands, as in rules. What is not filled in yet is not asked. */
export function HoldsWhere({ draft, kind, when, onChange }: Props) {
  const [made, setMade] = useState(when);
  const facts = useQuery({
    queryKey: ['facts', draft, kind],
    queryFn: () => call(alternateEndpoints.facts, { draft, kind }),
  });
  // It was undone, or changed from elsewhere.
  if (JSON.stringify(filledIn(made)) !== JSON.stringify(filledIn(when))) setMade(when);
  if (facts.isError) return <Alert type="error" showIcon title={messageOf(facts.error)} />;
  if (!facts.data) return <Skeleton active title={false} />;
  return (
    <ConditionEditor
      of={made}
      facts={facts.data}
      onChange={(next) => {
        setMade(next);
        onChange(filledIn(next));
      }}
    />
  );
}

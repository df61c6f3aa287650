'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { App } from 'antd';
import type { z } from 'zod';
import { alternateEndpoints } from '@/contract/alternates';
import type { AlternatesEdit } from '@/core/alternates';
import { call, draftChanged, messageOf, useDone } from '@/ui/shared';

/** Templates, pins and rules of a draft. */
export function useAlternates(draft: string, enabled = true) {
  return useQuery({
    queryKey: ['alternates', draft],
    queryFn: () => call(alternateEndpoints.list, { draft }),
    enabled,
  });
}

type Edits = Pick<typeof alternateEndpoints, 'edit' | 'rename' | 'retire' | 'makeFile'>;
type Asked = {
  [Name in keyof Edits]: {
    does: Name;
    body: z.input<Edits[Name]['body']>;
    /** What is said once it is done. */
    says: string;
  };
}[keyof Edits];

/** Changes the assignments of a draft; what was done is said, with a way back. */
export function useEdits(draft: string) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const done = useDone(draft);
  const mutation = useMutation({
    mutationFn: ({ does, body }: Asked) => call<Edits[keyof Edits]>(alternateEndpoints[does], { draft }, body),
    onSuccess: async ({ change }, { says }) => {
      if (change !== null) done(says, change);
      await draftChanged(queries, draft);
    },
    onError: async (error) => {
      void message.error(messageOf(error), 8);
      await draftChanged(queries, draft);
    },
  });
  const edit = (made: AlternatesEdit, says: string, onDone?: () => void) =>
    mutation.mutate({ does: 'edit', body: { edit: made }, says }, onDone ? { onSuccess: onDone } : {});
  return { ...mutation, edit };
}

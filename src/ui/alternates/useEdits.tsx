'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { App } from 'antd';
import type { AlternatesAnswer, EditAnswer } from '@/contract/alternates';
import type { AlternatesEdit } from '@/core/alternates';
import { api, messageOf, useDone } from '@/ui/shared';

/** Templates, pins and rules of a draft. */
export function useAlternates(draft: string, enabled = true) {
  return useQuery({
    queryKey: ['alternates', draft],
    queryFn: () => api<AlternatesAnswer>('GET', `/api/drafts/${draft}/alternates`),
    enabled,
  });
}

interface Asked {
  /** Where it is asked for, below `/alternates`: `/edit`. */
  path: '' | '/edit' | '/rename' | '/retire' | '/file';
  body: object;
  /** What is said once it is done. */
  says: string;
}

/** Changes the assignments of a draft; what was done is said, with a way back. */
export function useEdits(draft: string) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const done = useDone(draft);
  const mutation = useMutation({
    mutationFn: ({ path, body }: Asked) => api<EditAnswer>('POST', `/api/drafts/${draft}/alternates${path}`, body),
    onSuccess: async ({ change }, { says }) => {
      if (change !== null) done(says, change);
      await queries.invalidateQueries();
    },
    onError: async (error) => {
      void message.error(messageOf(error), 8);
      await queries.invalidateQueries();
    },
  });
  const edit = (made: AlternatesEdit, says: string, onDone?: () => void) =>
    mutation.mutate({ path: '/edit', body: { edit: made }, says }, onDone ? { onSuccess: onDone } : {});
  return { ...mutation, edit };
}

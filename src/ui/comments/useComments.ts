'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { commentEndpoints, type AddComment, type CommentItem, type CommentsAnswer } from '@/contract/comments';
import { call, useMay } from '@/ui/shared';

const none: CommentItem[] = [];

/** What is said in a draft; asked again now and then, since others say something too. */
export function useComments(draft: string): { comments: CommentItem[]; error: unknown } {
  const may = useMay('arrange');
  const { data, error } = useQuery({
    enabled: may && draft !== '',
    queryKey: ['comments', draft],
    queryFn: () => call(commentEndpoints.list, { draft }),
    refetchInterval: 30_000,
  });
  return { comments: data?.comments ?? none, error };
}

type Change =
  | { kind: 'add'; given: AddComment }
  | { kind: 'answer'; comment: number; text: string }
  | { kind: 'done'; comment: number; done: boolean }
  | { kind: 'remove'; comment: number };

/** Says something, answers, is done with it, or deletes it. */
export function useCommenting(draft: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (change: Change): Promise<CommentsAnswer> => {
      if (change.kind === 'add') return call(commentEndpoints.add, { draft }, change.given);
      const of = { draft, comment: change.comment };
      if (change.kind === 'answer') return call(commentEndpoints.answer, of, { text: change.text });
      if (change.kind === 'done') return call(commentEndpoints.done, of, { done: change.done });
      return call(commentEndpoints.remove, of);
    },
    onSuccess: (answer) => queries.setQueryData(['comments', draft], answer),
  });
}

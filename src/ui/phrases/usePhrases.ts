'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useStore } from 'zustand';
import { phraseEndpoints } from '@/contract/phrases';
import { ApiError, call, draftChanged, useDone } from '@/ui/shared';
import { keptIn } from './kept';
import { editsOf, PhraseStore, standingOf, type Typed } from './phrase-store';

/** The phrases of a draft, what is typed into them, and how that is saved. */
export function usePhrases(draft: string, onSaved: () => void = () => {}) {
  const queries = useQueryClient();
  const done = useDone(draft);
  const store = useMemo(() => new PhraseStore(keptIn(draft)), [draft]);
  const { typed } = useStore(store.state);
  const phrases = useQuery({ queryKey: ['phrases', draft], queryFn: () => call(phraseEndpoints.all, { draft }) });
  const { data } = phrases;
  const locales = useMemo(() => (data?.locales ?? []).map(({ locale }) => locale), [data]);
  const byKey = useMemo(() => new Map((data?.rows ?? []).map((row) => [row.key, row])), [data]);
  const save = useMutation({
    mutationFn: (edits: Typed[]) => call(phraseEndpoints.save, { draft }, editsOf(edits)),
    onSuccess: ({ change }, edits) => {
      store.saved(edits);
      done(edits.length === 1 ? 'The phrase is saved.' : `${edits.length} phrases are saved.`, change);
      void draftChanged(queries, draft);
      onSaved();
    },
    onError: (error) => {
      // What others made of them is shown beside what is typed.
      if (error instanceof ApiError && error.body.code === 'overlap') void draftChanged(queries, draft);
    },
  });
  return {
    ...{ store, typed, phrases, data, locales, byKey, save },
    standing: standingOf(typed.values(), byKey, locales),
  };
}

'use client';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { arrangeEndpoints, type ArrangeAnswer } from '@/contract/arrange';
import type { Arranged } from '@/core/inspect';
import { call, useLater } from '@/ui/shared';
import { ArrangeStore, type ArrangeState } from './arrange-store';

export interface ArrangeProps {
  draft: string;
  /** The page that is arranged. */
  address: string;
  tried: string | null;
  on: string | null;
  /** The shop's own `shelves.json` as it stands; null: it has none. */
  own: string | null;
  /** All texts that are not saved. */
  unsaved: () => { path: string; text: string }[];
  /** A new one says that another page or file was saved. */
  revision: number;
  onText: (text: string) => void;
  /** The placement or empty shelf that was chosen on the page; a new one each time. */
  placed: Arranged | null;
  /** How often a newer page was shown. */
  painted: number;
  /** What is known of the places of the page; another one where the page is another. */
  places: unknown;
  onOutline: (one: string | null, scroll: boolean) => void;
  /** Shelves with nothing on them, to be seen on the page. */
  onEmpty: (shelves: readonly { name: string; label: string }[]) => void;
}

/** So soon after a change it is asked how the page's shelves stand, in milliseconds. */
const rest = 120;

/** The placements of a draft, and how they stand on the page that is shown. */
export function useArrange({ draft, address, tried, on, own, unsaved, revision, onText }: ArrangeProps): {
  store: ArrangeStore;
  state: ArrangeState;
  answer: ArrangeAnswer | null;
  error: unknown;
} {
  const [store] = useState(() => new ArrangeStore(onText));
  const state = useStore(store.api);
  const text = useLater(own, rest);
  const { data = null, error } = useQuery({
    queryKey: ['arrange', draft, address, tried, on, text, revision],
    queryFn: () =>
      call(
        arrangeEndpoints.page,
        { draft },
        {
          ...{ address, try: tried, unsaved: unsaved(), languages: [...navigator.languages].slice(0, 20) },
          ...(on ? { on } : {}),
        },
      ),
    placeholderData: keepPreviousData,
  });
  const below = data?.below;
  useEffect(() => {
    if (below) store.take(own, below);
  }, [store, own, below]);
  return { store, state, answer: data, error };
}

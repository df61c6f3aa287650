'use client';
import { createContext, startTransition, use, useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { useStore } from 'zustand';
import type { Text } from './ports';
import type { Store } from './store';
import { allUnsaved, watchUnsaved } from './unsaved';
import type { Workspace } from './workspace';

/** The workspace that the components below show. */
export const WorkspaceContext = createContext<Workspace | null>(null);

export function useWorkspace(): Workspace {
  const workspace = use(WorkspaceContext);
  if (!workspace) throw new Error('useWorkspace is for components below a WorkspaceContext.');
  return workspace;
}

/** Part of a store, in step with it. */
export function useNow<State extends object, Part>(store: Store<State>, select: (state: State) => Part): Part {
  return useStore(store.api, select);
}

/** All of a store, drawn once there is time: what follows typing must not delay it. */
export function useSoon<State extends object>(store: Store<State>): State {
  const [state, setState] = useState(store.now);
  useEffect(() => {
    const follow = () => startTransition(() => setState(store.now));
    follow();
    return store.subscribe(follow);
  }, [store]);
  return state;
}

/** This window's texts of a draft that are not saved, kept up with as they change. */
export function useUnsaved(draft: string): Text[] {
  const stored = useSyncExternalStore(
    watchUnsaved,
    () => JSON.stringify(allUnsaved(draft)),
    () => '[]',
  );
  return useMemo(() => JSON.parse(stored) as Text[], [stored]);
}

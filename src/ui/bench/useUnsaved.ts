'use client';
import { useMemo, useSyncExternalStore } from 'react';
import { allUnsaved, watchUnsaved } from './unsaved';

/** This window's texts of a draft that are not saved, kept up with as they change. */
export function useUnsaved(draft: string): { path: string; text: string }[] {
  const kept = useSyncExternalStore(
    watchUnsaved,
    () => JSON.stringify(allUnsaved(draft)),
    () => '[]',
  );
  return useMemo(() => JSON.parse(kept) as { path: string; text: string }[], [kept]);
}

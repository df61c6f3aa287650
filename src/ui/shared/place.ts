'use client';
import { useSearchParams } from 'next/navigation';
import { useCallback } from 'react';
import { useBeginning } from './addresses';

/** Where one is in the workbench, kept in the address: draft, page, file, alternate tried, kind. */
export function usePlace() {
  const params = useSearchParams();
  const beginning = useBeginning();
  const draft = params.get('draft') ?? beginning.draft;
  /** Changes parts of the address; null takes one out. `replace`: without a step in the browser's history. */
  const go = useCallback((change: Record<string, string | null>, replace = false) => {
    const url = new URL(window.location.href);
    for (const [name, value] of Object.entries(change)) {
      if (value === null) url.searchParams.delete(name);
      else url.searchParams.set(name, value);
    }
    if (url.href === window.location.href) return;
    window.history[replace ? 'replaceState' : 'pushState'](null, '', url);
  }, []);
  return { draft, get: (name: string) => params.get(name), go };
}

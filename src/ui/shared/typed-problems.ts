import { useSyncExternalStore } from 'react';
import type { ProblemItem } from '@/contract/shared';

/** What is wrong with some files of a draft as they are typed, which is not saved. */
export interface TypedProblems {
  /** The files that were looked at: what is known of them as they are saved does not count meanwhile. */
  paths: string[];
  problems: ProblemItem[];
}

let now: { draft: string; typed: TypedProblems } | null = null;
const listeners = new Set<() => void>();

/** The Bench says what is wrong with what is typed in it; null: nothing is typed that is not saved. */
export function tellTyped(draft: string, typed: TypedProblems | null): void {
  if (!typed && !now) return;
  now = typed && { draft, typed };
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export function useTyped(draft: string): TypedProblems | null {
  const told = useSyncExternalStore(
    subscribe,
    () => now,
    () => null,
  );
  return told?.draft === draft ? told.typed : null;
}

/** How many problems a draft has, and the first of them: those that are saved, but for files that are known as they are typed. */
export function problemsNow(
  saved: { problems: readonly ProblemItem[]; count: number } | undefined,
  typed: TypedProblems | null,
): { count: number; first: ProblemItem | null } {
  const told = saved?.problems.filter(({ severity }) => severity !== 'note') ?? [];
  if (!typed) return { count: saved?.count ?? 0, first: told[0] ?? null };
  const paths = new Set(typed.paths);
  const left = told.filter(({ file }) => !paths.has(file));
  const count = (saved?.count ?? 0) - (told.length - left.length) + typed.problems.length;
  return { count, first: typed.problems[0] ?? left[0] ?? null };
}

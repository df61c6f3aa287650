import type { Query, QueryClient } from '@tanstack/react-query';

/** Answers, by the first word of their key, that no change of a draft changes. */
const ofTheShop: ReadonlySet<unknown> = new Set(['content', 'versions', 'subjects', 'fact', 'facts-of', 'releases']);
/** Answers that any draft may change: all others have the draft that they are of as the second part of their key. */
const ofAnyDraft: ReadonlySet<unknown> = new Set(['drafts', 'compare', 'history']);

/** Asks again for what a change of a draft's files may have changed, and for nothing else. */
export async function draftChanged(queries: QueryClient, draft: string): Promise<void> {
  const predicate = ({ queryKey: [name, of] }: Pick<Query, 'queryKey'>) =>
    !ofTheShop.has(name) && (ofAnyDraft.has(name) || of === draft);
  // What is on its way was asked before the change; where it is the first answer, it would be taken for the new one.
  await queries.cancelQueries({ predicate });
  await queries.invalidateQueries({ predicate });
}

import type { QueryClient } from '@tanstack/react-query';

/** Answers, by the first word of their key, that no change of a draft changes. */
const ofTheShop: ReadonlySet<unknown> = new Set(['content', 'versions', 'subjects', 'fact', 'facts-of', 'releases']);
/** Answers that any draft may change: all others have the draft that they are of as the second part of their key. */
const ofAnyDraft: ReadonlySet<unknown> = new Set(['drafts', 'compare', 'history']);

/** Asks again for what a change of a draft's files may have changed, and for nothing else. */
export const draftChanged = (queries: QueryClient, draft: string): Promise<void> =>
  queries.invalidateQueries({
    predicate: ({ queryKey: [name, of] }) => !ofTheShop.has(name) && (ofAnyDraft.has(name) || of === draft),
  });

import type { SubjectItem, SubjectKind } from '@/contract/shared';
import { findSubjects as find } from '@/store';
import type { Shop } from '@/server/shop';

/** Pages whose name holds these words, of one kind or of all: what pickers offer. */
export function findSubjects(shop: Shop, words: string, kind: SubjectKind | null): SubjectItem[] {
  return find(shop.sql, words, kind, 40);
}

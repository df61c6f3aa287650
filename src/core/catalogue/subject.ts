import type { Facts, SubjectKind } from './facts';
import type { Value } from '@/core/language';

/** A subject as assignments see it: which it is, and what rules can ask about it. */
export interface RuleSubject {
  kind: SubjectKind;
  slug: string;
  facts: Facts;
}

/** Where an object keeps how it is seen by rules: a symbol, so that no template meets it. */
export const asSubject: unique symbol = Symbol('subject');

/** How rules see a value; null for what is not a subject. */
export function subjectOf(value: Value | undefined): RuleSubject | null {
  if (typeof value !== 'object' || value === null) return null;
  const seen = (value as { [asSubject]?: () => RuleSubject })[asSubject];
  return seen ? seen.call(value) : null;
}

import { pathOf } from '@/core/address';
import type { ArrangeAnswer } from '@/contract/arrange';
import type { Placed, ShelfEntry } from '@/core/theme';

/** Where a placement stands: on the page at hand, on all pages of its kind, of one template, for which a condition holds, or everywhere. */
export type Where = 'here' | 'kind' | 'template' | 'condition' | 'everywhere' | 'elsewhere';

type Page = Pick<ArrangeAnswer, 'subject' | 'template'>;

const subjectOf = ({ subject }: Page): string | null => (subject ? pathOf(subject).slice(1) : null);

/** Where a piece stands that is put on a page: there only, where the page has a subject of its own. */
export function whereHere(page: Page): Partial<ShelfEntry> {
  const subject = subjectOf(page);
  // The first page is the only one of its kind.
  return subject ? { subject } : page.subject ? { kind: page.subject.kind } : {};
}

export function whereOf(one: Placed, page: Page): Where {
  if (one.when) return 'condition';
  if (one.subject !== undefined) return one.subject === subjectOf(page) ? 'here' : 'elsewhere';
  if (one.template !== undefined) return 'template';
  return one.kind === undefined ? 'everywhere' : 'kind';
}

/** Whether a placement belongs to a page at all, whatever day it is and whatever its condition says. */
export const belongsTo = (one: Placed, page: Page): boolean =>
  (one.subject === undefined || one.subject === subjectOf(page)) &&
  (one.kind === undefined || one.kind === page.subject?.kind) &&
  (one.template === undefined || one.template === page.template);

/** The keys of a placement that stands so. */
export function keysOf(where: Where, page: Page): Partial<ShelfEntry> {
  const none = { subject: undefined, kind: undefined, template: undefined, when: undefined };
  if (where === 'here') return { ...none, ...whereHere(page) };
  if (where === 'kind' && page.subject) return { ...none, kind: page.subject.kind };
  // It holds for all of them, until it asks something.
  if (where === 'condition' && page.subject) return { ...none, kind: page.subject.kind, when: { all: [] } };
  return where === 'template' ? { ...none, template: page.template } : none;
}

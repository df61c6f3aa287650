import { reviewEndpoints, type ReviewAnswer } from '@/contract/reviews';
import { mayRole } from '@/contract/roles';
import { People } from '@/server/accounts';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import { draftNow } from '@/server/shop';
import { Accounts, Reviews, type StateRow } from '@/store';
import { hereName } from './noted';
import { serveAll } from './serve';

function reviewOf(shop: Shop, draft: StateRow): ReviewAnswer {
  const last = new Reviews(shop.sql).last(draft.id);
  const reviewers = new Accounts(shop.sql).list().filter(({ role }) => mayRole(role, 'source'));
  if (!last) return { review: null, reviewers: reviewers.map(({ called }) => called) };
  const { revision, ...review } = last;
  return {
    review: { ...review, changedSince: draftNow(shop, draft).revision !== revision },
    reviewers: reviewers.map(({ called }) => called),
  };
}

const now = (): string => new Date().toISOString();

export const reviewCalls = serveAll(reviewEndpoints, {
  last: ({ shop, draft }) => reviewOf(shop, draft),
  ask: ({ shop, draft, body: { whom, note }, by }) => {
    const asked = { by: by || hereName, at: now(), whom, note: note.trim(), revision: draftNow(shop, draft).revision };
    new Reviews(shop.sql).ask(draft.id, asked);
    new People(shop.sql).log(asked.by, 'asked for a review', `${draft.name}${whom ? `, of ${whom}` : ''}`);
    return reviewOf(shop, draft);
  },
  answer: ({ shop, draft, body: { id, answer, note }, by }) => {
    const reviews = new Reviews(shop.sql);
    if (reviews.last(draft.id)?.id !== id)
      refuse(409, 'review', 'The draft was handed over again meanwhile: look at what was asked last.');
    if (!reviews.answer(id, answer, by || hereName, now(), note.trim()))
      refuse(409, 'review', 'Somebody else has answered this meanwhile: load the page again.');
    new People(shop.sql).log(by || hereName, answer, `${draft.name}${note.trim() ? `: ${note.trim()}` : ''}`);
    return reviewOf(shop, draft);
  },
});

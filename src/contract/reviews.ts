import { z } from 'zod';
import { endpoint } from './endpoint';

/** Handing a draft over to be looked at, and what came of it. */

const note = z.string().max(2000);

const review = z.object({
  id: z.number(),
  by: z.string(),
  at: z.string(),
  /** Whom it was handed to; '' to whoever reviews. */
  whom: z.string(),
  note: z.string(),
  /** Whether the draft was changed since it was handed over. */
  changedSince: z.boolean(),
  answer: z.enum(['approved', 'given back']).nullable(),
  answeredBy: z.string().nullable(),
  answeredAt: z.string().nullable(),
  answerNote: z.string().nullable(),
});
export type ReviewItem = z.output<typeof review>;

const reviewAnswer = z.object({
  /** The last one; null: the draft was never handed over. */
  review: review.nullable(),
  /** Who can look at it, as colleagues call them. */
  reviewers: z.array(z.string()),
});
export type ReviewAnswer = z.output<typeof reviewAnswer>;

export const reviewEndpoints = {
  last: endpoint('GET', '/api/drafts/{draft}/review', 'Says to whom a draft was handed over, and what came of it', {
    answer: reviewAnswer,
  }),
  ask: endpoint('POST', '/api/drafts/{draft}/review', 'Hands a draft over to be looked at', {
    body: z.strictObject({ whom: z.string().max(60).default(''), note: note.default('') }),
    answer: reviewAnswer,
  }),
  answer: endpoint(
    'POST',
    '/api/drafts/{draft}/review/answer',
    'Approves a draft that was handed over, or gives it back',
    {
      body: z.strictObject({
        id: z.number().int(),
        answer: z.enum(['approved', 'given back']),
        note: note.default(''),
      }),
      answer: reviewAnswer,
    },
  ),
};

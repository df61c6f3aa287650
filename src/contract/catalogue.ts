import { z } from 'zod';
import { subjectKind, subject } from './shared';
import { endpoint } from './endpoint';

/** What is asked of the catalogue. */

/** Asks how often fields of the catalogue's objects are empty. */
export const factsRequest = z.strictObject({
  fields: z
    .array(z.strictObject({ object: z.string().max(40), path: z.array(z.string().max(80)).min(1).max(6) }))
    .max(200),
});

export const factsAnswer = z.array(z.object({ empty: z.number(), total: z.number(), example: z.string() }).nullable());
export type FactsAnswer = z.output<typeof factsAnswer>;

export const catalogueEndpoints = {
  subjects: endpoint('GET', '/api/subjects', 'Finds subjects by words', {
    query: z.object({ q: z.string().max(200).default(''), kind: subjectKind.optional() }),
    answer: z.array(subject),
  }),
  emptiness: endpoint(
    'POST',
    '/api/drafts/{draft}/fact',
    'Says how often fields of the catalogue’s objects are empty',
    {
      body: factsRequest,
      answer: factsAnswer,
    },
  ),
};

import { z } from 'zod';
import { endpoint } from './endpoint';
import { themePath } from './shared';

/** What is said of places of a draft, and who works in it. */

const text = z.string().trim().min(1).max(4000);

const anchor = z.strictObject({
  start: z.number().int().min(0),
  exact: z.string().max(300),
  prefix: z.string().max(120),
  suffix: z.string().max(120),
});

const comment = z.object({
  id: z.number(),
  /** Counts the comments of the draft, from 1. */
  number: z.number(),
  by: z.string(),
  at: z.string(),
  text: z.string(),
  /** The page that was looked at, by its path in the shop. */
  page: z.string().nullable(),
  /** The piece on a shelf that is meant, by its id. */
  placement: z.string().nullable(),
  /** What it stands at, in words. */
  shows: z.string(),
  /** Where it stands in the source as it is saved; without a name of the file for who sees no source. null: it stands in no file, or what it stood at is gone. */
  place: z
    .object({
      file: z.string(),
      layer: z.string(),
      from: z.number(),
      to: z.number(),
      line: z.number(),
      /** Whether what stands there is what was commented on. */
      same: z.boolean(),
      anchor: anchor.nullable(),
    })
    .nullable(),
  /** What it stood at is there no more. */
  gone: z.boolean(),
  done: z.object({ by: z.string(), at: z.string() }).nullable(),
  answers: z.array(z.object({ id: z.number(), by: z.string(), at: z.string(), text: z.string() })),
});
export type CommentItem = z.output<typeof comment>;

const commentsAnswer = z.object({ comments: z.array(comment) });
export type CommentsAnswer = z.output<typeof commentsAnswer>;

const addRequest = z.strictObject({
  text,
  page: z.string().startsWith('/').max(2000).nullable().default(null),
  placement: z.string().max(80).nullable().default(null),
  shows: z.string().max(120).default(''),
  place: z.strictObject({ path: themePath, anchor }).nullable().default(null),
});
export type AddComment = z.input<typeof addRequest>;

const hereAnswer = z.object({
  /** Others who have the draft open now, each with what they have open in it: a file or a shelf by name. */
  others: z.array(z.object({ called: z.string(), at: z.string() })),
});
export type HereAnswer = z.output<typeof hereAnswer>;

const all = '/api/drafts/{draft}/comments';
const one = `${all}/{comment}` as const;

export const commentEndpoints = {
  list: endpoint('GET', all, 'Lists the comments of a draft, each with where it stands now', {
    answer: commentsAnswer,
  }),
  add: endpoint('POST', all, 'Adds a comment at a place of a draft', { body: addRequest, answer: commentsAnswer }),
  answer: endpoint('POST', `${one}/answer`, 'Answers a comment', {
    body: z.strictObject({ text }),
    answer: commentsAnswer,
  }),
  done: endpoint('PUT', `${one}/done`, 'Says that a comment is done with, or open again', {
    body: z.strictObject({ done: z.boolean() }),
    answer: commentsAnswer,
  }),
  remove: endpoint('DELETE', one, 'Deletes a comment of one’s own that nobody has answered', {
    answer: commentsAnswer,
  }),
  here: endpoint('POST', '/api/drafts/{draft}/here', 'Says what one has open in a draft, and asks who else is in it', {
    body: z.strictObject({
      /** The window that says so. */
      window: z.string().min(4).max(40),
      file: themePath.nullable(),
      shelf: z.string().max(120).nullable(),
      /** False: it is closed. */
      open: z.boolean().default(true),
    }),
    answer: hereAnswer,
  }),
};

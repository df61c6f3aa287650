import { z } from 'zod';
import { endpoint } from './endpoint';

/** Pictures and films of the catalogue: brought in, listed, taken out. */

const path = z.string().min(1).max(400);
const filter = z.enum(['all', 'unused', 'copies', 'missing']);
export type PictureFilter = z.output<typeof filter>;

const picture = z.object({
  path: z.string(),
  type: z.string(),
  /** As it is shown, in pixels; null: not known. */
  width: z.number().nullable(),
  height: z.number().nullable(),
  /** In bytes. */
  size: z.number(),
  /** On the shop's origin, small. */
  address: z.string(),
});

const listed = picture.extend({
  /** Places of the catalogue that name it. */
  uses: z.number(),
  /** Files of the same content, this one among them. */
  copies: z.number(),
});
export type ListedPicture = z.output<typeof listed>;

/** What became of a file that came. */
export const pictureOutcome = z.object({
  path: z.string(),
  what: z.enum(['added', 'replaced', 'same', 'there', 'left']),
  /** Why it was left out. */
  why: z.string(),
  /** Another picture of the same content. */
  copyOf: z.string().nullable(),
});
export type PictureOutcome = z.output<typeof pictureOutcome>;

export const pictureEndpoints = {
  list: endpoint('GET', '/api/pictures', 'Lists pictures, and those that goods name and that are not there', {
    query: z.object({
      filter: filter.default('all'),
      words: z.string().max(200).default(''),
      from: z.coerce.number().int().nonnegative().default(0),
    }),
    answer: z.object({
      counts: z.object({ all: z.number(), unused: z.number(), copies: z.number(), missing: z.number() }),
      total: z.number(),
      pictures: z.array(listed),
      missing: z.array(z.object({ path: z.string(), uses: z.number() })),
    }),
  }),
  one: endpoint('GET', '/api/pictures/one', 'Says what a picture is, and what names it', {
    query: z.object({ path }),
    answer: picture.extend({
      usedBy: z.array(z.object({ kind: z.string(), slug: z.string(), name: z.string() })),
      copies: z.array(z.string()),
    }),
  }),
  take: endpoint('POST', '/api/pictures', 'Takes a picture, or a ZIP of pictures', {
    query: z.object({
      path,
      /** Whether it takes the place of another picture of its name. */
      replace: z.enum(['yes', 'no']).default('no'),
      /** The change that it is part of; left out: a new one. */
      change: z.coerce.number().int().optional(),
    }),
    takes: 'bytes',
    sends: 'lines',
    answer: z.object({ outcome: pictureOutcome.optional(), change: z.number().nullable().optional() }),
  }),
  remove: endpoint('POST', '/api/pictures/remove', 'Takes pictures out', {
    body: z.strictObject({ paths: z.array(path).min(1).max(1000) }),
    answer: z.object({ change: z.number(), removed: z.number() }),
  }),
};
export type PictureList = z.output<typeof pictureEndpoints.list.answer>;

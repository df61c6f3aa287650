import { z } from 'zod';
import { endpoint } from './endpoint';
import { layer, author } from './shared';

/** Releases. */

export const releaseItem = z.object({
  number: z.number(),
  name: z.string(),
  note: z.string(),
  ...author,
  /** The draft that it was made of. */
  from: z.string().nullable(),
  live: z.boolean(),
  below: z.array(layer),
});
export type ReleaseItem = z.output<typeof releaseItem>;

export const releasesAnswer = z.object({
  releases: z.array(releaseItem),
  /** Goes up each time another release goes live. */
  turn: z.number(),
});
export type ReleasesAnswer = z.output<typeof releasesAnswer>;

export const liveRequest = z.strictObject({ turn: z.int() });

export const releaseEndpoints = {
  list: endpoint('GET', '/api/releases', 'Lists releases, the latest first', { answer: releasesAnswer }),
  putLive: endpoint('POST', '/api/releases/{number}/live', 'Makes an earlier release the one that visitors see', {
    body: liveRequest,
  }),
};

import { z } from 'zod';
import { endpoint } from './endpoint';

/** Whether Last is well, and what it does, since it started. */

export const statusAnswer = z.object({
  /** What is wrong, each with what to do; none: all is well. */
  faults: z.array(z.string()),
  since: z.string(),
  node: z.string(),
  memoryMb: z.number(),
  liveRelease: z.number().nullable(),
  goodsRevision: z.number(),
  /** Answers by who was asked: how many, how many of them failed (status 500 and above), and in what time 95 of 100 came (null: slower than is told apart). */
  answers: z.array(z.object({ part: z.string(), count: z.number(), failed: z.number(), p95Ms: z.number().nullable() })),
  pages: z.object({ made: z.number(), again: z.number(), same: z.number() }),
  /** Work that waits for a thread. */
  waiting: z.object({ live: z.number(), preview: z.number() }),
  orders: z.object({ new: z.number(), taken: z.number(), cancelled: z.number() }),
  stuck: z.object({ count: z.number(), said: z.string(), next: z.string() }).nullable(),
  /** When goods last came from another system; null: never. */
  lastFeed: z.object({ at: z.string(), by: z.string(), records: z.number() }).nullable(),
});
export type StatusAnswer = z.output<typeof statusAnswer>;

export const statusEndpoints = {
  now: endpoint('GET', '/api/status', 'Says whether Last is well, and what it does', { answer: statusAnswer }),
};

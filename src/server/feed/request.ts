import { createHash } from 'node:crypto';
import type { FeedAnswer } from '@/contract/feed';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import { Feeds } from '@/store';

/** More than this is sent in several requests, in bytes. */
export const maxFeedBytes = 20_000_000;
/** Answers are kept under their keys for so long, in milliseconds. */
const keptMs = 7 * 86_400_000;
const running = new Set<string>();

/**
 * Does what a request asks for once: who asks again under the same key is answered as before. Where it ended in between, all that was taken is found to be
 * the same, so that it may be asked again too.
 */
export async function takeOnce(
  shop: Shop,
  key: string | null,
  text: string,
  work: () => Promise<FeedAnswer>,
): Promise<FeedAnswer> {
  if (key === null) return work();
  if (key.length > 200) refuse(400, 'key', 'An Idempotency-Key has 200 characters at most.');
  const feeds = new Feeds(shop.sql);
  const hash = createHash('sha256').update(text).digest('hex');
  const before = feeds.answered(key);
  if (before && before.hash !== hash)
    refuse(422, 'key', 'This Idempotency-Key came with other lines before: give each request a key of its own.');
  if (before) return JSON.parse(before.answer) as FeedAnswer;
  if (running.has(key))
    refuse(409, 'running', 'A request under this Idempotency-Key is under way: ask again in a moment.');
  running.add(key);
  try {
    const answer = await work();
    const at = Date.now();
    feeds.forget(new Date(at - keptMs).toISOString());
    feeds.keep(key, hash, JSON.stringify(answer), new Date(at).toISOString());
    return answer;
  } finally {
    running.delete(key);
  }
}

/** Goods that another system sends, line by line. */
export { readKnown } from './known';
export { paced } from './pace';
export { dryFeed, takeFeed, takeRecord } from './take';
export { maxFeedBytes, takeOnce } from './request';
export { atOnce, feed, type FeedSaid, type FeedTask } from './thread';

/** Goods that another system sends, line by line. */
export { dryFeed, takeFeed } from './take';
export { maxFeedBytes, takeOnce } from './request';
export { atOnce, feed, type FeedSaid, type FeedTask } from './thread';

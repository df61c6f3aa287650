/** Goods that another system sends, line by line. */
export { dryFeed, takeFeed } from './take';
export { maxFeedBytes, takeOnce } from './request';

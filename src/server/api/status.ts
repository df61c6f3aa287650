import { dirname } from 'node:path';
import { statusEndpoints } from '@/contract/status';
import { answersSoFar } from '@/server/figures';
import { faultsOf } from '@/server/health';
import { catalogueState, Feeds, OrderEvents, Orders } from '@/store';
import { serveAll } from './serve';

export const statusCalls = serveAll(statusEndpoints, {
  now: async ({ shop }) => ({
    faults: faultsOf(shop, dirname(shop.sql.db.name)),
    since: new Date(Date.now() - process.uptime() * 1000).toISOString(),
    node: process.versions.node,
    memoryMb: Math.round(process.memoryUsage.rss() / 1e6),
    liveRelease: shop.themes.live()?.number ?? null,
    goodsRevision: catalogueState(shop.sql).revision,
    answers: await answersSoFar(),
    pages: { ...shop.pages.counts },
    waiting: shop.jobs?.waiting() ?? { live: 0, preview: 0 },
    orders: new Orders(shop.sql).counts({}),
    stuck: new OrderEvents(shop.sql).stuck(),
    lastFeed: new Feeds(shop.sql).last(),
  }),
});

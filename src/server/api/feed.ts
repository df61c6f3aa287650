import { feedEndpoints } from '@/contract/feed';
import { feed, maxFeedBytes, takeOnce } from '@/server/feed';
import { limitedText } from '@/server/http';
import { Feeds } from '@/store';
import { lines } from './lines';
import { serveAll } from './serve';

export const feedCalls = serveAll(feedEndpoints, {
  take: async ({ shop, request, query: { dry }, by }) => {
    const text = await limitedText(request, maxFeedBytes);
    const ask = { text, by: by || 'a feed' };
    if (dry === 'true') return feed(shop, ask, true);
    return takeOnce(shop, request.headers.get('idempotency-key'), text, () => feed(shop, ask, false));
  },
  figures: ({ shop }) =>
    lines((line) => {
      for (const one of new Feeds(shop.sql).figures()) line(one);
      return Promise.resolve();
    }),
  changes: ({ shop, query: { after, most } }) => {
    const found = new Feeds(shop.sql).changes(after, most + 1);
    const changes = found.slice(0, most);
    return { changes, cursor: changes.at(-1)?.cursor ?? after, more: found.length > most };
  },
});

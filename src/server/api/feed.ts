import { feedEndpoints } from '@/contract/feed';
import { feed, maxFeedBytes, readKnown, takeOnce, takeRecord } from '@/server/feed';
import { limitedText, refuse } from '@/server/http';
import { Feeds } from '@/store';
import { lines } from './lines';
import { serveAll } from './serve';

/** Who sends goods, where nobody has said so. */
const aFeed = 'a feed';

/** What a request says has to be so of the record (RFC 9110, 13.1). */
function conditionsOf({ headers }: Request): { ifMatch?: string; ifNoneMatch?: string } {
  const [ifMatch, ifNoneMatch] = [headers.get('if-match'), headers.get('if-none-match')];
  return { ...(ifMatch === null ? {} : { ifMatch }), ...(ifNoneMatch === null ? {} : { ifNoneMatch }) };
}

/** An answer with the entity tag of the record as it is now. */
const tagged = (answer: { etag: string | null }) =>
  Response.json(answer, { headers: { 'Cache-Control': 'no-store', ...(answer.etag ? { ETag: answer.etag } : {}) } });

export const feedCalls = serveAll(feedEndpoints, {
  take: async ({ shop, request, query: { dry }, by }) => {
    const text = await limitedText(request, maxFeedBytes);
    const ask = { text, by: by || aFeed };
    if (dry === 'true') return feed(shop, ask, true);
    return takeOnce(shop, request.headers.get('idempotency-key'), text, () => feed(shop, ask, false));
  },
  figures: ({ shop }) =>
    lines((line) => {
      for (const one of new Feeds(shop.sql).figures()) line(one);
      return Promise.resolve();
    }),
  record: ({ shop, query: { kind, slug } }) =>
    tagged(readKnown(shop, kind, slug) ?? refuse(404, 'gone', `There is no ${kind} “${slug}”.`)),
  put: ({ shop, request, query, body, by }) =>
    tagged(takeRecord(shop, { ...query, ...conditionsOf(request), put: body }, by || aFeed)),
  patch: ({ shop, request, query, body, by }) =>
    tagged(takeRecord(shop, { ...query, ...conditionsOf(request), patch: body }, by || aFeed)),
  remove: ({ shop, request, query, by }) =>
    tagged(takeRecord(shop, { ...query, ...conditionsOf(request), remove: true }, by || aFeed)),
  changes: ({ shop, query: { after, most } }) => {
    const found = new Feeds(shop.sql).changes(after, most + 1);
    const changes = found.slice(0, most);
    return { changes, cursor: changes.at(-1)?.cursor ?? after, more: found.length > most };
  },
});

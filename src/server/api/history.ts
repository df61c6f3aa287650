import { historyEndpoints } from '@/contract/history';
import { bytesBy, changeOf, contentBy, historyOf, historyOfFile, restoreFile, undoChange } from '@/server/drafts';
import { serveContent } from '@/server/storefront';
import { serveAll } from './serve';

export const historyCalls = serveAll(historyEndpoints, {
  list: ({ shop, draft, query }) =>
    query.path === undefined ? historyOf(shop, draft) : historyOfFile(shop, query.path),
  rename: ({ shop, draft, change, body }) => {
    shop.themes.retitle(changeOf(shop, draft, change).id, body.title);
    return {};
  },
  undo: ({ shop, draft, change, by }) => {
    undoChange(shop, draft, change, by);
    return {};
  },
  restore: ({ shop, draft, body, by }) => {
    restoreFile(shop, draft, body, by);
    return {};
  },
  content: ({ shop, query }) => contentBy(shop, query.path, query.hash),
  bytes: ({ request, shop, query: { path, hash } }) => serveContent(request, path, hash, bytesBy(shop, path, hash)),
  versions: ({ shop, query }) => shop.themes.versionsOf(query.path),
});

import { draftEndpoints } from '@/contract/drafts';
import { bringInThread, draftJobs, publish } from '@/server/drafts';
import {
  copyState,
  draftItem,
  draftItems,
  draftNow,
  inThread,
  removeDraft,
  restoreDraft,
  sendFromThread,
  stateOf,
} from '@/server/shop';
import { streamWork } from '@/server/threads';
import { serveAll } from './serve';

export const draftCalls = serveAll(draftEndpoints, {
  list: ({ shop }) => draftItems(shop),
  copy: ({ shop, body, by }) => ({ slug: copyState(shop, body, by) }),
  one: ({ shop, draft }) => draftItem(shop, draft),
  rename: ({ shop, draft, body }) => {
    shop.themes.rename(draft.id, body.name, body.note);
    return draftItem(shop, draftNow(shop, draft));
  },
  remove: ({ shop, draft }) => {
    removeDraft(shop, draft);
    return {};
  },
  putBack: ({ shop, removed }) => {
    restoreDraft(shop, removed);
    return {};
  },
  changes: ({ shop, draft }) => sendFromThread(shop, draftJobs.changes, draft),
  publish: async ({ shop, draft, body, by }) =>
    publish(shop, draft, body, by, await inThread(shop, 'preview', draftJobs.checked, draft)),
  planBring: ({ shop, draft, query }) => sendFromThread(shop, draftJobs.bringing, draft, stateOf(shop, query.from)),
  bring: ({ shop, draft, body: { from, paths }, by }) => bringInThread(shop, draft, from, paths, by),
  compare: ({ shop, query: { a, b } }) => sendFromThread(shop, draftJobs.compare, stateOf(shop, a), stateOf(shop, b)),
  comparePages: ({ shop, query: { a, b } }) => {
    for (const name of [a, b]) stateOf(shop, name);
    return streamWork({ kind: 'differing', a, b });
  },
});

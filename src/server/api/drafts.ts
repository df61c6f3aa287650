import { draftEndpoints } from '@/contract/drafts';
import { bringInThread, draftJobs, publish, publishContent } from '@/server/drafts';
import { may } from '@/server/http';
import {
  closeDraft,
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
  list: ({ shop, who }) => draftItems(shop, may(who, 'source')),
  close: ({ shop, draft, body: { closed } }) => {
    closeDraft(shop, draft, closed);
    return draftItem(shop, draftNow(shop, draft));
  },
  copy: ({ shop, body, by }) => ({ slug: copyState(shop, body, by) }),
  one: ({ shop, draft, who }) => draftItem(shop, draft, may(who, 'source')),
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
  content: async ({ shop, draft }) => {
    // Read before what it speaks of, as in comparing.
    const turn = shop.themes.liveTurn();
    return { ...(await inThread(shop, 'preview', draftJobs.content, draft)), turn, revision: draft.revision };
  },
  publishContent: async ({ shop, draft, body, by }) =>
    publishContent(shop, draft, body, by, await inThread(shop, 'preview', draftJobs.checked, draft)),
  planBring: ({ shop, draft, query }) => sendFromThread(shop, draftJobs.bringing, draft, stateOf(shop, query.from)),
  bring: ({ shop, draft, body: { from, paths }, by }) => bringInThread(shop, draft, from, paths, by),
  compare: ({ shop, query: { a, b } }) => sendFromThread(shop, draftJobs.compare, stateOf(shop, a), stateOf(shop, b)),
  comparePages: ({ shop, query: { a, b } }) => {
    for (const name of [a, b]) stateOf(shop, name);
    return streamWork({ kind: 'differing', a, b });
  },
});

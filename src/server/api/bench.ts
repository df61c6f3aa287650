import { benchEndpoints } from '@/contract/bench';
import { benchJobs, plainPath, readAsk, viewOf } from '@/server/bench';
import { draftJobs } from '@/server/drafts';
import { sendFromThread } from '@/server/shop';
import { streamWork } from '@/server/threads';
import { serveAll } from './serve';

export const benchCalls = serveAll(benchEndpoints, {
  view: ({ shop, draft, body }) => {
    shop.keepUnsaved(body.unsaved);
    shop.views.type(body.view, draft.slug ?? '', body.unsaved);
    return sendFromThread(shop, benchJobs.view, draft, body, viewOf(shop, draft, body));
  },
  change: ({ shop, draft, body }) => sendFromThread(shop, benchJobs.change, draft, body),
  reach: ({ shop, draft, body }) => sendFromThread(shop, benchJobs.reach, draft, body, viewOf(shop, draft, body)),
  survey: ({ shop, draft, body: { address, try: tried, template, unsaved } }) => {
    const path = plainPath(shop, readAsk(address, tried).path);
    return streamWork({ kind: 'survey', draft: draft.slug ?? '', ask: { path, tried, template, unsaved } });
  },
  theme: ({ shop, draft }) => sendFromThread(shop, draftJobs.snapshot, draft),
});

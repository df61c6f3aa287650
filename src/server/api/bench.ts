import { benchEndpoints, type ViewAnswer } from '@/contract/bench';
import { may } from '@/server/http';
import { benchJobs, plainPath, readAsk, viewOf } from '@/server/bench';
import { draftJobs } from '@/server/drafts';
import { inThread, sendFromThread } from '@/server/shop';
import { streamWork } from '@/server/threads';
import { serveAll } from './serve';
import { mayType, withoutSource } from './without-source';

export const benchCalls = serveAll(benchEndpoints, {
  view: async ({ shop, draft, body, who }) => {
    mayType(who, body.unsaved);
    shop.keepUnsaved(body.unsaved);
    shop.views.type(body.view, draft.slug ?? '', body.unsaved);
    const view = viewOf(shop, draft, body);
    // What is sent as a thread wrote it is not read here: that takes as long as making it.
    if (may(who, 'source')) return sendFromThread(shop, benchJobs.view, draft, body, view);
    return withoutSource((await inThread(shop, benchJobs.view.lane, benchJobs.view, draft, body, view)) as ViewAnswer);
  },
  change: ({ shop, draft, body }) => sendFromThread(shop, benchJobs.change, draft, body),
  reach: ({ shop, draft, body }) => sendFromThread(shop, benchJobs.reach, draft, body, viewOf(shop, draft, body)),
  survey: ({ shop, draft, body: { address, try: tried, template, unsaved } }) => {
    const path = plainPath(shop, readAsk(address, tried).path);
    return streamWork({ kind: 'survey', draft: draft.slug ?? '', ask: { path, tried, template, unsaved } });
  },
  theme: ({ shop, draft }) => sendFromThread(shop, draftJobs.snapshot, draft),
});

import { arrangeEndpoints } from '@/contract/arrange';
import { benchJobs } from '@/server/bench';
import { draftJobs, writeText } from '@/server/drafts';
import { draftNow, inThread, sendFromThread } from '@/server/shop';
import { mayType } from './without-source';
import { serveAll } from './serve';

const shelves = 'shelves.json';

export const arrangeCalls = serveAll(arrangeEndpoints, {
  page: ({ shop, draft, body, who }) =>
    sendFromThread(shop, benchJobs.arrange, draft, { ...body, unsaved: mayType(who, body.unsaved) }),
  open: ({ shop, draft }) => sendFromThread(shop, draftJobs.open, draft, shelves, null),
  save: async ({ shop, draft, body: { text, expected, together }, by }) => {
    const saved = writeText(shop, draft, shelves, text, expected, by, together);
    const problems = await inThread(shop, 'preview', draftJobs.problems, draftNow(shop, draft), shelves);
    return { ...saved, problems };
  },
});

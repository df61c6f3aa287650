import { arrangeEndpoints } from '@/contract/arrange';
import { benchJobs } from '@/server/bench';
import { sendFromThread } from '@/server/shop';
import { serveAll } from './serve';

export const arrangeCalls = serveAll(arrangeEndpoints, {
  page: ({ shop, draft, body }) => sendFromThread(shop, benchJobs.arrange, draft, body),
});

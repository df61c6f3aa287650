import { draftEndpoints } from '@/contract/drafts';
import { draftJobs } from '@/server/drafts';
import { sendFromThread, serve, stateOf } from '@/server/shop';

export const GET = serve(draftEndpoints.compare, ({ shop, query: { a, b } }) =>
  sendFromThread(shop, draftJobs.compare, stateOf(shop, a), stateOf(shop, b)),
);

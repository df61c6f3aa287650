import { draftEndpoints } from '@/contract/drafts';
import { bringInThread, draftJobs } from '@/server/drafts';
import { sendFromThread, serve, stateOf } from '@/server/shop';

export const GET = serve(draftEndpoints.planBring, ({ shop, draft, query }) =>
  sendFromThread(shop, draftJobs.bringing, draft, stateOf(shop, query.from)),
);

export const POST = serve(draftEndpoints.bring, ({ shop, draft, body: { from, paths }, by }) =>
  bringInThread(shop, draft, from, paths, by),
);

import { layerEndpoints } from '@/contract/layers';
import { draftJobs, updateInThread } from '@/server/drafts';
import { sendFromThread, serve } from '@/server/shop';

export const GET = serve(layerEndpoints.planUpdate, ({ shop, draft, query }) =>
  sendFromThread(shop, draftJobs.update, draft, query.to),
);

export const POST = serve(layerEndpoints.update, ({ shop, draft, body, by }) =>
  updateInThread(shop, draft, body.to, by),
);

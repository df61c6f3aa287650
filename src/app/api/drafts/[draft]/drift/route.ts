import { layerEndpoints } from '@/contract/layers';
import { draftJobs, settle } from '@/server/drafts';
import { sendFromThread, serve } from '@/server/shop';

export const GET = serve(layerEndpoints.drift, ({ shop, draft, query }) =>
  sendFromThread(shop, draftJobs.drift, draft, query.path),
);

export const PUT = serve(layerEndpoints.settle, ({ shop, draft, body, by }) => {
  settle(shop, draft, body, by);
  return {};
});

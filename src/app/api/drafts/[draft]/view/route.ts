import { benchEndpoints } from '@/contract/bench';
import { benchJobs, viewOf } from '@/server/bench';
import { sendFromThread, serve } from '@/server/shop';

export const POST = serve(benchEndpoints.view, ({ shop, draft, body }) => {
  shop.keepUnsaved(body.unsaved);
  return sendFromThread(shop, benchJobs.view, draft, body, viewOf(shop, draft, body));
});

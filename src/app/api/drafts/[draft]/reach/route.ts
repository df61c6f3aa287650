import { benchEndpoints } from '@/contract/bench';
import { benchJobs, viewOf } from '@/server/bench';
import { sendFromThread, serve } from '@/server/shop';

export const POST = serve(benchEndpoints.reach, ({ shop, draft, body }) =>
  sendFromThread(shop, benchJobs.reach, draft, body, viewOf(shop, draft, body)),
);

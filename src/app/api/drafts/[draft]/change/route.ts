import { benchEndpoints } from '@/contract/bench';
import { benchJobs } from '@/server/bench';
import { sendFromThread, serve } from '@/server/shop';

export const POST = serve(benchEndpoints.change, ({ shop, draft, body }) =>
  sendFromThread(shop, benchJobs.change, draft, body),
);

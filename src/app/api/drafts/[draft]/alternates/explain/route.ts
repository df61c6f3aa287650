import { alternateEndpoints } from '@/contract/alternates';
import { alternateJobs } from '@/server/alternates';
import { sendFromThread, serve } from '@/server/shop';

export const GET = serve(alternateEndpoints.explain, ({ shop, draft, query }) =>
  sendFromThread(shop, alternateJobs.explain, draft, query.address, {
    on: query.on ?? null,
    tried: query.try ?? null,
  }),
);

import { draftEndpoints } from '@/contract/drafts';
import { draftJobs, publish } from '@/server/drafts';
import { inThread, serve } from '@/server/shop';

export const POST = serve(draftEndpoints.publish, async ({ shop, draft, body, by }) =>
  publish(shop, draft, body, by, await inThread(shop, 'preview', draftJobs.checked, draft)),
);

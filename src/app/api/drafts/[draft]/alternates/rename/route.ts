import { alternateEndpoints } from '@/contract/alternates';
import { alternateJobs } from '@/server/alternates';
import { editInThread } from '@/server/drafts';
import { serve } from '@/server/shop';

export const POST = serve(alternateEndpoints.rename, async ({ shop, draft, body, by }) => {
  const { change } = await editInThread(shop, draft, alternateJobs.planRename, body, by);
  return { change };
});

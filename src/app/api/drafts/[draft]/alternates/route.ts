import { alternateEndpoints } from '@/contract/alternates';
import { alternateJobs } from '@/server/alternates';
import { editInThread } from '@/server/drafts';
import { sendFromThread, serve } from '@/server/shop';

export const GET = serve(alternateEndpoints.list, ({ shop, draft }) => sendFromThread(shop, alternateJobs.all, draft));

export const POST = serve(alternateEndpoints.make, async ({ shop, draft, body, by }) => {
  const { change } = await editInThread(shop, draft, alternateJobs.planAlternate, body, by);
  return { change };
});

import { fileEndpoints } from '@/contract/files';
import { draftJobs, editInThread } from '@/server/drafts';
import { serve } from '@/server/shop';

export const POST = serve(fileEndpoints.rename, async ({ shop, draft, body, by }) => {
  const { paths } = await editInThread(shop, draft, draftJobs.planFileRename, body, by);
  return { paths };
});

import { draftEndpoints } from '@/contract/drafts';
import { restoreDraft, serve } from '@/server/shop';

export const POST = serve(draftEndpoints.putBack, ({ shop, removed }) => {
  restoreDraft(shop, removed);
  return {};
});

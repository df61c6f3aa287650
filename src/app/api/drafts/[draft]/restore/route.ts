import { historyEndpoints } from '@/contract/history';
import { restoreFile } from '@/server/drafts';
import { serve } from '@/server/shop';

export const POST = serve(historyEndpoints.restore, ({ shop, draft, body, by }) => {
  restoreFile(shop, draft, body, by);
  return {};
});

import { historyEndpoints } from '@/contract/history';
import { historyOf, historyOfFile } from '@/server/drafts';
import { serve } from '@/server/shop';

export const GET = serve(historyEndpoints.list, ({ shop, draft, query }) =>
  query.path === undefined ? historyOf(shop, draft) : historyOfFile(shop, query.path),
);

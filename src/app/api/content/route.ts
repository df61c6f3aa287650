import { historyEndpoints } from '@/contract/history';
import { contentBy } from '@/server/drafts';
import { serve } from '@/server/shop';

export const GET = serve(historyEndpoints.content, ({ shop, query }) => contentBy(shop, query.path, query.hash));

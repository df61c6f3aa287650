import { historyEndpoints } from '@/contract/history';
import { serve } from '@/server/shop';

export const GET = serve(historyEndpoints.versions, ({ shop, query }) => shop.themes.versionsOf(query.path));

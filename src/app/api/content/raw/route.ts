import { historyEndpoints } from '@/contract/history';
import { bytesBy } from '@/server/drafts';
import { serve } from '@/server/shop';
import { serveContent } from '@/server/storefront';

export const GET = serve(historyEndpoints.bytes, ({ request, shop, query: { path, hash } }) =>
  serveContent(request, path, hash, bytesBy(shop, path, hash)),
);

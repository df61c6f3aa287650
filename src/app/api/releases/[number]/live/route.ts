import { releaseEndpoints } from '@/contract/releases';
import { putBack } from '@/server/drafts';
import { serve } from '@/server/shop';

export const POST = serve(releaseEndpoints.putLive, ({ shop, number, body, by }) => {
  putBack(shop, number, body.turn, by);
  return {};
});

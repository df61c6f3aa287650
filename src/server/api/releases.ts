import { releaseEndpoints } from '@/contract/releases';
import { putBack } from '@/server/drafts';
import { releaseItems } from '@/server/shop';
import { serveAll } from './serve';

export const releaseCalls = serveAll(releaseEndpoints, {
  list: ({ shop }) => releaseItems(shop),
  putLive: ({ shop, number, body, by }) => {
    putBack(shop, number, body.turn, by);
    return {};
  },
});

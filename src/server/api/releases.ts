import { releaseEndpoints } from '@/contract/releases';
import { putBack } from '@/server/drafts';
import { may } from '@/server/http';
import { releaseItems } from '@/server/shop';
import { serveAll } from './serve';

export const releaseCalls = serveAll(releaseEndpoints, {
  list: ({ shop, who }) => releaseItems(shop, may(who, 'source')),
  putLive: ({ shop, number, body, by }) => {
    putBack(shop, number, body.turn, by);
    return {};
  },
});

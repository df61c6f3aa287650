import { draftEndpoints } from '@/contract/drafts';
import { serve, stateOf } from '@/server/shop';
import { streamWork } from '@/server/threads';

export const GET = serve(draftEndpoints.comparePages, ({ shop, query: { a, b } }) => {
  for (const name of [a, b]) stateOf(shop, name);
  return streamWork({ kind: 'differing', a, b });
});

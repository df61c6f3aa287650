import { alternateEndpoints } from '@/contract/alternates';
import { serve } from '@/server/shop';
import { workOnce } from '@/server/threads';

export const POST = serve(alternateEndpoints.match, ({ draft, body }) =>
  workOnce({ kind: 'match', state: `draft/${draft.slug}`, ask: body }),
);

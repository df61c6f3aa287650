import { alternateEndpoints } from '@/contract/alternates';
import { serve } from '@/server/shop';
import { workOnce } from '@/server/threads';

export const POST = serve(alternateEndpoints.fall, ({ draft, body: { name, ...target } }) =>
  workOnce({ kind: 'fall', state: `draft/${draft.slug}`, ask: { target, name } }),
);

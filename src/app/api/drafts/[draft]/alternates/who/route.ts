import { alternateEndpoints } from '@/contract/alternates';
import { serve } from '@/server/shop';
import { workOnce } from '@/server/threads';

export const POST = serve(alternateEndpoints.who, ({ draft, body }) =>
  workOnce({ kind: 'who', state: `draft/${draft.slug}`, ask: body }),
);

import { alternateEndpoints } from '@/contract/alternates';
import { serve } from '@/server/shop';
import { streamWork } from '@/server/threads';

export const POST = serve(alternateEndpoints.cover, ({ draft, body }) =>
  streamWork({ kind: 'cover', state: `draft/${draft.slug}`, ask: body }),
);

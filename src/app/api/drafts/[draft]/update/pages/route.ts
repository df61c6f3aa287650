import { layerEndpoints } from '@/contract/layers';
import { serve } from '@/server/shop';
import { streamWork } from '@/server/threads';

export const GET = serve(layerEndpoints.updatedPages, ({ draft, query }) =>
  streamWork({ kind: 'update', draft: draft.slug ?? '', to: query.to }),
);

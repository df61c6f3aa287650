import { alternateEndpoints } from '@/contract/alternates';
import { serve } from '@/server/shop';
import { workOnce } from '@/server/threads';

export const GET = serve(alternateEndpoints.problems, ({ draft }) =>
  workOnce({ kind: 'problems', state: `draft/${draft.slug}` }),
);

import { alternateEndpoints } from '@/contract/alternates';
import { factsOfKind } from '@/server/alternates';
import { serve } from '@/server/shop';

export const GET = serve(alternateEndpoints.facts, ({ shop, query }) => factsOfKind(shop, query.kind));

import { draftEndpoints } from '@/contract/drafts';
import { copyState, draftItems, serve } from '@/server/shop';

export const dynamic = 'force-dynamic';

export const GET = serve(draftEndpoints.list, ({ shop }) => draftItems(shop));

export const POST = serve(draftEndpoints.copy, ({ shop, body, by }) => ({ slug: copyState(shop, body, by) }));

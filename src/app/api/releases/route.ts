import { releaseEndpoints } from '@/contract/releases';
import { releaseItems, serve } from '@/server/shop';

export const dynamic = 'force-dynamic';

export const GET = serve(releaseEndpoints.list, ({ shop }) => releaseItems(shop));

import { layerEndpoints } from '@/contract/layers';
import { addVersion, bounds, readZip, themeOf, versionItems } from '@/server/drafts';
import { bytesOf } from '@/server/http';
import { serve } from '@/server/shop';

export const dynamic = 'force-dynamic';

export const GET = serve(layerEndpoints.versions, ({ shop }) => versionItems(shop));

export const POST = serve(layerEndpoints.addVersion, async ({ request, shop, query }) =>
  addVersion(shop, themeOf(await readZip(await bytesOf(request, bounds.zip))), query.kind),
);

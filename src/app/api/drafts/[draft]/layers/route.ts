import { layerEndpoints } from '@/contract/layers';
import { draftJobs } from '@/server/drafts';
import { sendFromThread, serve } from '@/server/shop';

export const GET = serve(layerEndpoints.all, ({ shop, draft }) => sendFromThread(shop, draftJobs.layers, draft));

import { layerEndpoints } from '@/contract/layers';
import { draftJobs } from '@/server/drafts';
import { sendFromThread, serve } from '@/server/shop';

export const GET = serve(layerEndpoints.look, ({ shop, draft }) => sendFromThread(shop, draftJobs.look, draft));

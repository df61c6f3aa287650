import { benchEndpoints } from '@/contract/bench';
import { draftJobs } from '@/server/drafts';
import { sendFromThread, serve } from '@/server/shop';

export const GET = serve(benchEndpoints.theme, ({ shop, draft }) => sendFromThread(shop, draftJobs.snapshot, draft));

import { draftEndpoints } from '@/contract/drafts';
import { draftJobs } from '@/server/drafts';
import { sendFromThread, serve } from '@/server/shop';

export const GET = serve(draftEndpoints.changes, ({ shop, draft }) => sendFromThread(shop, draftJobs.changes, draft));

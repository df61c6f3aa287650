import { fileEndpoints } from '@/contract/files';
import { draftJobs, saveFiles } from '@/server/drafts';
import { draftNow, inThread, sendFromThread, serve } from '@/server/shop';

export const GET = serve(fileEndpoints.list, ({ shop, draft }) => sendFromThread(shop, draftJobs.files, draft));

export const PUT = serve(fileEndpoints.saveAll, ({ shop, draft, body: { files, title, together }, by }) => {
  saveFiles(shop, draft, files, title, by, together);
  return inThread(shop, 'preview', draftJobs.files, draftNow(shop, draft));
});

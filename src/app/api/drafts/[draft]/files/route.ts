import { saveFilesRequest } from '@/contract/files';
import { authorOf, answer, bodyOf, refusing } from '@/server/http';
import { draftOf, saveFiles, draftJobs } from '@/server/drafts';
import { inThread, sendFromThread, shop } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string }>;
}

export function GET(_: Request, { params }: Context): Promise<Response> {
  return refusing(async () => sendFromThread(shop(), draftJobs.files, draftOf(shop(), (await params).draft)));
}

export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { files, title, together } = await bodyOf(request, saveFilesRequest);
    saveFiles(shop(), draftOf(shop(), (await params).draft), files, title, authorOf(request), together);
    return inThread(shop(), 'preview', draftJobs.files, draftOf(shop(), (await params).draft));
  });
}

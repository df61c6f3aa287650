import { revertRequest, saveRequest } from '@/contract/files';
import { themePath } from '@/contract/shared';
import { authorOf, answer, bodyOf, byContract, refusing } from '@/server/http';
import { draftOf, dropFile, writeText, draftJobs } from '@/server/drafts';
import { inThread, sendFromThread, shop } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string }>;
}

export function GET(request: Request, { params }: Context): Promise<Response> {
  return refusing(async () => {
    const query = new URL(request.url).searchParams;
    const path = byContract(query.get('path'), themePath);
    return sendFromThread(shop(), draftJobs.open, draftOf(shop(), (await params).draft), path, query.get('layer'));
  });
}

export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { path, text, expected, together } = await bodyOf(request, saveRequest);
    const { draft } = await params;
    const saved = writeText(shop(), draftOf(shop(), draft), path, text, expected, authorOf(request), together);
    // It is saved, whatever checking it comes to.
    const problems = await inThread(shop(), 'preview', draftJobs.problems, draftOf(shop(), draft), path);
    return { ...saved, problems };
  });
}

export function DELETE(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { path, expected } = await bodyOf(request, revertRequest);
    const { draft } = await params;
    const below = dropFile(shop(), draftOf(shop(), draft), path, expected, authorOf(request));
    return below ? inThread(shop(), 'preview', draftJobs.open, draftOf(shop(), draft), path) : null;
  });
}

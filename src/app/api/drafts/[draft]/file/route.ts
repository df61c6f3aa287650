import { revertRequest, saveRequest, themePath } from '@/contract/api';
import { authorOf } from '@/server/author';
import { draftOf, dropFile, writeText } from '@/server/files';
import { answer, bodyOf, byContract, refusing } from '@/server/http/answers';
import { inThread, sendFromThread } from '@/server/shop-jobs';
import { draftJobs } from '@/server/draft-jobs';
import { shop } from '@/server/shop';

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

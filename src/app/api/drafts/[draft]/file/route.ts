import { revertRequest, saveRequest, themePath } from '@/contract/api';
import { authorOf } from '@/server/author';
import { draftOf, openFile, revertFile, saveFile } from '@/server/files';
import { answer, bodyOf, byContract } from '@/server/http';
import { shop } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string }>;
}

export function GET(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const query = new URL(request.url).searchParams;
    const path = byContract(query.get('path'), themePath);
    return openFile(shop(), draftOf(shop(), (await params).draft), path, query.get('layer'));
  });
}

export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { path, text, expected, together } = await bodyOf(request, saveRequest);
    return saveFile(shop(), draftOf(shop(), (await params).draft), path, text, expected, authorOf(request), together);
  });
}

export function DELETE(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { path, expected } = await bodyOf(request, revertRequest);
    return revertFile(shop(), draftOf(shop(), (await params).draft), path, expected, authorOf(request));
  });
}

import { renameFileRequest } from '@/contract/theme';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http';
import { renameFile } from '@/server/layers';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, renameFileRequest);
    renameFile(shop(), draftOf(shop(), (await params).draft), asked, authorOf(request));
    return {};
  });
}

import { renameFileRequest, type RenameFileAnswer } from '@/contract/theme';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http/answers';
import { renameFile } from '@/server/rename';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, renameFileRequest);
    const paths = renameFile(shop(), draftOf(shop(), (await params).draft), asked, authorOf(request));
    return { paths } satisfies RenameFileAnswer;
  });
}

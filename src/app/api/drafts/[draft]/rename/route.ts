import { draftJobs, editInThread } from '@/server/drafts';
import { renameFileRequest, type RenameFileAnswer } from '@/contract/files';
import { authorOf, answer, bodyOf } from '@/server/http';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, renameFileRequest);
    const { paths } = await editInThread(
      shop(),
      (await params).draft,
      draftJobs.planFileRename,
      asked,
      authorOf(request),
    );
    return { paths } satisfies RenameFileAnswer;
  });
}

import { draftJobs } from '@/server/draft-jobs';
import { renameFileRequest, type RenameFileAnswer } from '@/contract/theme';
import { authorOf } from '@/server/author';
import { editInThread } from '@/server/jobs/edits';
import { answer, bodyOf } from '@/server/http/answers';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, renameFileRequest);
    const { paths } = await editInThread(shop(), (await params).draft, draftJobs.planFileRename, asked, authorOf(request));
    return { paths } satisfies RenameFileAnswer;
  });
}

import { alternateJobs } from '@/server/alternate-jobs';
import { renameAlternateRequest } from '@/contract/alternates';
import { authorOf } from '@/server/author';
import { editInThread } from '@/server/jobs/edits';
import { answer, bodyOf } from '@/server/http/answers';
import { shop } from '@/server/shop';

/** Gives an alternate another name; pins and rules follow. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, renameAlternateRequest);
    const { change } = await editInThread(shop(), (await params).draft, alternateJobs.planRename, asked, authorOf(request));
    return { change };
  });
}

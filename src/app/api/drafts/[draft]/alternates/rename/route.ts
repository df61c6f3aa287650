import { alternateJobs } from '@/server/alternates';
import { renameAlternateRequest } from '@/contract/alternates';
import { authorOf, answer, bodyOf } from '@/server/http';
import { editInThread } from '@/server/drafts';
import { shop } from '@/server/shop';

/** Gives an alternate another name; pins and rules follow. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, renameAlternateRequest);
    const { change } = await editInThread(
      shop(),
      (await params).draft,
      alternateJobs.planRename,
      asked,
      authorOf(request),
    );
    return { change };
  });
}

import { alternateJobs } from '@/server/alternates';
import { editRequest } from '@/contract/alternates';
import { authorOf, answer, bodyOf } from '@/server/http';
import { editInThread } from '@/server/drafts';
import { shop } from '@/server/shop';

/** Does one edit of the assignments. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, editRequest);
    const { change } = await editInThread(
      shop(),
      (await params).draft,
      alternateJobs.planEdit,
      asked.edit,
      authorOf(request),
    );
    return { change };
  });
}

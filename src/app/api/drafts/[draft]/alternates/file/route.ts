import { alternateJobs } from '@/server/alternates';
import { namedAlternate } from '@/contract/alternates';
import { authorOf, answer, bodyOf } from '@/server/http';
import { editInThread } from '@/server/drafts';
import { shop } from '@/server/shop';

/** Makes the missing file of an alternate. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, namedAlternate);
    const { change } = await editInThread(
      shop(),
      (await params).draft,
      alternateJobs.planFile,
      asked,
      authorOf(request),
    );
    return { change };
  });
}

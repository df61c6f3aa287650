import { alternateJobs } from '@/server/alternates';
import { namedAlternate } from '@/contract/alternates';
import { authorOf, answer, bodyOf } from '@/server/http';
import { editInThread } from '@/server/drafts';
import { shop } from '@/server/shop';

/** Takes an alternate out, with what is assigned to it. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, namedAlternate);
    const { change } = await editInThread(
      shop(),
      (await params).draft,
      alternateJobs.planRetirement,
      asked,
      authorOf(request),
    );
    return { change };
  });
}

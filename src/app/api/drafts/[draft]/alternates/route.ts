import { makeAlternateRequest } from '@/contract/alternates';
import { sendFromThread, shop } from '@/server/shop';
import { alternateJobs } from '@/server/alternates';
import { authorOf, answer, bodyOf, refusing } from '@/server/http';
import { editInThread, draftOf } from '@/server/drafts';

interface Context {
  params: Promise<{ draft: string }>;
}

/** Templates of every target, with pins and rules in their order. */
export function GET(_: Request, { params }: Context): Promise<Response> {
  return refusing(async () => sendFromThread(shop(), alternateJobs.all, draftOf(shop(), (await params).draft)));
}

/** Makes an alternate. */
export function POST(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, makeAlternateRequest);
    const { change } = await editInThread(
      shop(),
      (await params).draft,
      alternateJobs.planAlternate,
      asked,
      authorOf(request),
    );
    return { change };
  });
}

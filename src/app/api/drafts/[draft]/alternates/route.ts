import { makeAlternateRequest } from '@/contract/alternates';
import { sendFromThread } from '@/server/shop-jobs';
import { alternateJobs } from '@/server/alternate-jobs';
import { authorOf } from '@/server/author';
import { editInThread } from '@/server/jobs/edits';
import { draftOf } from '@/server/files';
import { answer, bodyOf, refusing } from '@/server/http/answers';
import { shop } from '@/server/shop';

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
    const { change } = await editInThread(shop(), (await params).draft, alternateJobs.planAlternate, asked, authorOf(request));
    return { change };
  });
}

import { makeAlternateRequest } from '@/contract/alternates';
import { sendFromThread } from '@/server/jobs/services';
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
  return refusing(async () => sendFromThread(shop(), 'alternates', draftOf(shop(), (await params).draft)));
}

/** Makes an alternate. */
export function POST(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, makeAlternateRequest);
    const { change } = await editInThread(shop(), (await params).draft, 'planAlternate', asked, authorOf(request));
    return { change };
  });
}

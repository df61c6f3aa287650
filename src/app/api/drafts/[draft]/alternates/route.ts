import { makeAlternateRequest } from '@/contract/alternates';
import { makeAlternate } from '@/server/alternates';
import { sendFromThread } from '@/server/jobs/services';
import { authorOf } from '@/server/author';
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
    return makeAlternate(shop(), draftOf(shop(), (await params).draft), asked, authorOf(request));
  });
}

import { bringRequest } from '@/contract/drafts';
import { stateName } from '@/contract/shared';
import { authorOf, answer, bodyOf, byContract, refusing } from '@/server/http';
import { draftOf, bringInThread, draftJobs } from '@/server/drafts';
import { sendFromThread, shop, stateOf } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string }>;
}

/** What would come into the draft from another state. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return refusing(async () => {
    const from = byContract(new URL(request.url).searchParams.get('from'), stateName);
    return sendFromThread(shop(), draftJobs.bringing, draftOf(shop(), (await params).draft), stateOf(shop(), from));
  });
}

export function POST(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { from, paths } = await bodyOf(request, bringRequest);
    return bringInThread(shop(), (await params).draft, from, paths, authorOf(request));
  });
}

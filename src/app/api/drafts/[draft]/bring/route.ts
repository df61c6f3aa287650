import { bringRequest, stateName } from '@/contract/theme';
import { authorOf } from '@/server/author';
import { bring, planBring } from '@/server/compare';
import { draftOf } from '@/server/files';
import { answer, bodyOf, byContract } from '@/server/http/answers';
import { shop } from '@/server/shop';
import { stateOf } from '@/server/states';

interface Context {
  params: Promise<{ draft: string }>;
}

/** What would come into the draft from another state. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const from = byContract(new URL(request.url).searchParams.get('from'), stateName);
    return planBring(shop(), draftOf(shop(), (await params).draft), stateOf(shop(), from)).answer;
  });
}

export function POST(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { from, paths } = await bodyOf(request, bringRequest);
    return bring(shop(), draftOf(shop(), (await params).draft), stateOf(shop(), from), paths, authorOf(request));
  });
}

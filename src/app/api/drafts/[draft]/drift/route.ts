import { themePath } from '@/contract/shared';
import { settleRequest } from '@/contract/layers';
import { authorOf, answer, bodyOf, byContract, refusing } from '@/server/http';
import { draftOf, draftJobs, settle } from '@/server/drafts';
import { sendFromThread, shop } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string }>;
}

export function GET(request: Request, { params }: Context): Promise<Response> {
  return refusing(async () => {
    const path = byContract(new URL(request.url).searchParams.get('path'), themePath);
    return sendFromThread(shop(), draftJobs.drift, draftOf(shop(), (await params).draft), path);
  });
}

export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    settle(shop(), draftOf(shop(), (await params).draft), await bodyOf(request, settleRequest), authorOf(request));
    return {};
  });
}

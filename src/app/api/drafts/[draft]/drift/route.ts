import { themePath } from '@/contract/api';
import { settleRequest } from '@/contract/theme';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf, byContract, refusing } from '@/server/http/answers';
import { sendFromThread } from '@/server/shop-jobs';
import { draftJobs } from '@/server/draft-jobs';
import { settle } from '@/server/layers';
import { shop } from '@/server/shop';

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

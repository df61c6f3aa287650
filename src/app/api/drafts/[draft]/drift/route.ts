import { themePath } from '@/contract/api';
import { settleRequest } from '@/contract/theme';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf, byContract } from '@/server/http/answers';
import { driftOf, settle } from '@/server/layers';
import { shop } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string }>;
}

export function GET(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const path = byContract(new URL(request.url).searchParams.get('path'), themePath);
    return driftOf(shop(), draftOf(shop(), (await params).draft), path);
  });
}

export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    settle(shop(), draftOf(shop(), (await params).draft), await bodyOf(request, settleRequest), authorOf(request));
    return {};
  });
}

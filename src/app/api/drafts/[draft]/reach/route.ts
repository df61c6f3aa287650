import { reachRequest } from '@/contract/api';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http';
import { reachAt } from '@/server/preview';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, reachRequest);
    return reachAt(shop(), draftOf(shop(), (await params).draft), asked);
  });
}

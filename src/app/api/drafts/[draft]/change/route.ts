import { changeRequest } from '@/contract/api';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http';
import { inThread } from '@/server/jobs/services';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, changeRequest);
    return inThread(shop(), 'preview', 'change', draftOf(shop(), (await params).draft), asked);
  });
}

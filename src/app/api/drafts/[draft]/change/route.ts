import { changeRequest } from '@/contract/api';
import { draftOf } from '@/server/files';
import { bodyOf, refusing } from '@/server/http/answers';
import { sendFromThread } from '@/server/shop-jobs';
import { benchJobs } from '@/server/bench-jobs';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => {
    const asked = await bodyOf(request, changeRequest);
    return sendFromThread(shop(), benchJobs.change, draftOf(shop(), (await params).draft), asked);
  });
}

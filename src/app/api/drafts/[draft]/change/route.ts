import { changeRequest } from '@/contract/bench';
import { draftOf } from '@/server/drafts';
import { bodyOf, refusing } from '@/server/http';
import { sendFromThread, shop } from '@/server/shop';
import { benchJobs } from '@/server/bench';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => {
    const asked = await bodyOf(request, changeRequest);
    return sendFromThread(shop(), benchJobs.change, draftOf(shop(), (await params).draft), asked);
  });
}

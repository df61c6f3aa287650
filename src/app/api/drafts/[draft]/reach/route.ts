import { reachRequest } from '@/contract/bench';
import { draftOf } from '@/server/drafts';
import { bodyOf, refusing } from '@/server/http';
import { sendFromThread, shop } from '@/server/shop';
import { benchJobs, viewOf } from '@/server/bench';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => {
    const asked = await bodyOf(request, reachRequest);
    const draft = draftOf(shop(), (await params).draft);
    return sendFromThread(shop(), benchJobs.reach, draft, asked, viewOf(shop(), draft, asked));
  });
}

import { publishRequest } from '@/contract/drafts';
import { authorOf, answer, bodyOf } from '@/server/http';
import { draftOf, draftJobs, publish } from '@/server/drafts';
import { inThread, shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, publishRequest);
    const draft = draftOf(shop(), (await params).draft);
    const checked = await inThread(shop(), 'preview', draftJobs.checked, draft);
    return publish(shop(), draft, asked, authorOf(request), checked);
  });
}

import { viewRequest } from '@/contract/api';
import { draftOf } from '@/server/files';
import { bodyOf, refusing } from '@/server/http/answers';
import { sendFromThread } from '@/server/shop-jobs';
import { benchJobs } from '@/server/bench-jobs';
import { viewOf } from '@/server/preview';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => {
    const asked = await bodyOf(request, viewRequest);
    const draft = draftOf(shop(), (await params).draft);
    shop().keepUnsaved(asked.unsaved);
    return sendFromThread(shop(), benchJobs.view, draft, asked, viewOf(shop(), draft, asked));
  });
}

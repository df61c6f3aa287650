import { publishRequest } from '@/contract/api';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http/answers';
import { inThread } from '@/server/shop-jobs';
import { draftJobs } from '@/server/draft-jobs';
import { publish } from '@/server/release';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, publishRequest);
    const draft = draftOf(shop(), (await params).draft);
    const checked = await inThread(shop(), 'preview', draftJobs.checked, draft);
    return publish(shop(), draft, asked, authorOf(request), checked);
  });
}

import { viewRequest } from '@/contract/api';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http';
import { inThread } from '@/server/jobs/services';
import { viewOf } from '@/server/preview';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, viewRequest);
    const draft = draftOf(shop(), (await params).draft);
    shop().keepUnsaved(asked.unsaved);
    return inThread(shop(), 'preview', 'view', draft, asked, viewOf(shop(), draft, asked));
  });
}

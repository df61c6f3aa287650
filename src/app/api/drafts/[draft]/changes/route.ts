import { draftOf } from '@/server/files';
import { answer } from '@/server/http';
import { inThread } from '@/server/jobs/services';
import { shop } from '@/server/shop';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => inThread(shop(), 'preview', 'changes', draftOf(shop(), (await params).draft)));
}

import { draftOf } from '@/server/files';
import { refusing } from '@/server/http/answers';
import { sendFromThread } from '@/server/jobs/services';
import { shop } from '@/server/shop';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => sendFromThread(shop(), 'changes', draftOf(shop(), (await params).draft)));
}

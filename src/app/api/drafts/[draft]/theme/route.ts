import { draftOf } from '@/server/files';
import { sendFromThread } from '@/server/jobs/services';
import { refusing } from '@/server/http/answers';
import { shop } from '@/server/shop';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => sendFromThread(shop(), 'snapshot', draftOf(shop(), (await params).draft)));
}

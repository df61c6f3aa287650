import { draftOf } from '@/server/files';
import { refusing } from '@/server/http/answers';
import { sendFromThread } from '@/server/jobs/services';
import { shop } from '@/server/shop';

/** What the form of the look is made from. */
export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => sendFromThread(shop(), 'look', draftOf(shop(), (await params).draft)));
}

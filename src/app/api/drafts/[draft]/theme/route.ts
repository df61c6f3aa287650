import { draftOf } from '@/server/files';
import { sendFromThread } from '@/server/shop-jobs';
import { draftJobs } from '@/server/draft-jobs';
import { refusing } from '@/server/http/answers';
import { shop } from '@/server/shop';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => sendFromThread(shop(), draftJobs.snapshot, draftOf(shop(), (await params).draft)));
}

import { draftOf } from '@/server/files';
import { refusing } from '@/server/http/answers';
import { sendFromThread } from '@/server/shop-jobs';
import { draftJobs } from '@/server/draft-jobs';
import { shop } from '@/server/shop';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => sendFromThread(shop(), draftJobs.layers, draftOf(shop(), (await params).draft)));
}

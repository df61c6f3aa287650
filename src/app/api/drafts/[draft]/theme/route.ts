import { draftOf, draftJobs } from '@/server/drafts';
import { sendFromThread, shop } from '@/server/shop';
import { refusing } from '@/server/http';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => sendFromThread(shop(), draftJobs.snapshot, draftOf(shop(), (await params).draft)));
}

import { draftOf, draftJobs } from '@/server/drafts';
import { refusing } from '@/server/http';
import { sendFromThread, shop } from '@/server/shop';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => sendFromThread(shop(), draftJobs.changes, draftOf(shop(), (await params).draft)));
}

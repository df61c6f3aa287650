import { draftOf, draftJobs } from '@/server/drafts';
import { refusing } from '@/server/http';
import { sendFromThread, shop } from '@/server/shop';

/** What the form of the look is made from. */
export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => sendFromThread(shop(), draftJobs.look, draftOf(shop(), (await params).draft)));
}

import { z } from 'zod';
import { sendFromThread, shop } from '@/server/shop';
import { alternateJobs } from '@/server/alternates';
import { draftOf } from '@/server/drafts';
import { byContract, refusing } from '@/server/http';

/** Why the subject at an address gets its templates. */
export function GET(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => {
    const query = new URL(request.url).searchParams;
    const on = byContract(query.get('on'), z.iso.date().nullable());
    const draft = draftOf(shop(), (await params).draft);
    const asked = { on, tried: query.get('try') };
    return sendFromThread(shop(), alternateJobs.explain, draft, query.get('address') ?? '/', asked);
  });
}

import { z } from 'zod';
import { sendFromThread } from '@/server/shop-jobs';
import { alternateJobs } from '@/server/alternate-jobs';
import { draftOf } from '@/server/files';
import { byContract, refusing } from '@/server/http/answers';
import { shop } from '@/server/shop';

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

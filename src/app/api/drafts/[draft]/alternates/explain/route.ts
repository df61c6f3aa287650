import { z } from 'zod';
import { inThread } from '@/server/jobs/services';
import { draftOf } from '@/server/files';
import { answer, byContract } from '@/server/http';
import { shop } from '@/server/shop';

/** Why the subject at an address gets its templates. */
export function GET(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const query = new URL(request.url).searchParams;
    const on = byContract(query.get('on'), z.iso.date().nullable());
    const draft = draftOf(shop(), (await params).draft);
    const asked = { on, tried: query.get('try') };
    return inThread(shop(), 'preview', 'explain', draft, query.get('address') ?? '/', asked);
  });
}

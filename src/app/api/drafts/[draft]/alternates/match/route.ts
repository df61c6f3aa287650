import { matchRequest } from '@/contract/alternates';
import { draftOf } from '@/server/drafts';
import { answer, bodyOf } from '@/server/http';
import { workOnce } from '@/server/threads';
import { shop } from '@/server/shop';

/** Whom a condition holds for. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const ask = await bodyOf(request, matchRequest);
    const { slug } = draftOf(shop(), (await params).draft);
    return workOnce({ kind: 'match', state: `draft/${slug ?? ''}`, ask });
  });
}

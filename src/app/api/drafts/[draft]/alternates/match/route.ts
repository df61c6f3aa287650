import { matchRequest } from '@/contract/alternates';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http/answers';
import { workOnce } from '@/server/long-work';
import { shop } from '@/server/shop';

/** Whom a condition holds for. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const ask = await bodyOf(request, matchRequest);
    const { slug } = draftOf(shop(), (await params).draft);
    return workOnce({ kind: 'match', state: `draft/${slug ?? ''}`, ask });
  });
}

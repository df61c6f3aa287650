import { whoRequest } from '@/contract/alternates';
import { draftOf } from '@/server/drafts';
import { answer, bodyOf } from '@/server/http';
import { workOnce } from '@/server/threads';
import { shop } from '@/server/shop';

/** Subjects that are meant by a place of the map, with what each gets. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const ask = await bodyOf(request, whoRequest);
    const { slug } = draftOf(shop(), (await params).draft);
    return workOnce({ kind: 'who', state: `draft/${slug ?? ''}`, ask });
  });
}

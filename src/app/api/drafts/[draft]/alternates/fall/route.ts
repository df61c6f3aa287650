import { namedAlternate } from '@/contract/alternates';
import { draftOf } from '@/server/drafts';
import { answer, bodyOf } from '@/server/http';
import { workOnce } from '@/server/threads';
import { shop } from '@/server/shop';

/** Who would get another template if an alternate were retired. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const { name, ...target } = await bodyOf(request, namedAlternate);
    const { slug } = draftOf(shop(), (await params).draft);
    return workOnce({ kind: 'fall', state: `draft/${slug ?? ''}`, ask: { target, name } });
  });
}

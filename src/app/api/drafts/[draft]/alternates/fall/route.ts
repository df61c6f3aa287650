import { namedAlternate } from '@/contract/alternates';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http/answers';
import { workOnce } from '@/server/long-work';
import { shop } from '@/server/shop';

/** Who would get another template if an alternate were retired. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const { name, ...target } = await bodyOf(request, namedAlternate);
    const { slug } = draftOf(shop(), (await params).draft);
    return workOnce({ kind: 'fall', state: `draft/${slug ?? ''}`, ask: { target, name } });
  });
}

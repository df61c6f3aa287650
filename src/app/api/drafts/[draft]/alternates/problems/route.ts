import { draftOf } from '@/server/drafts';
import { answer } from '@/server/http';
import { workOnce } from '@/server/threads';
import { shop } from '@/server/shop';

/** What is wrong with the assignments of a draft, each with what fixes it. */
export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const { slug } = draftOf(shop(), (await params).draft);
    return workOnce({ kind: 'problems', state: `draft/${slug ?? ''}` });
  });
}

import { editRequest } from '@/contract/alternates';
import { editAlternates } from '@/server/alternates';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http/answers';
import { shop } from '@/server/shop';

/** Does one edit of the assignments. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, editRequest);
    return editAlternates(shop(), draftOf(shop(), (await params).draft), asked.edit, authorOf(request));
  });
}

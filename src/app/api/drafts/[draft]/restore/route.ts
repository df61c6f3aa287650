import { restoreRequest } from '@/contract/history';
import { authorOf, answer, bodyOf } from '@/server/http';
import { draftOf, restoreFile } from '@/server/drafts';
import { shop } from '@/server/shop';

/** Puts an earlier content of a file into the shop's own layer again. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, restoreRequest);
    restoreFile(shop(), draftOf(shop(), (await params).draft), asked, authorOf(request));
    return {};
  });
}

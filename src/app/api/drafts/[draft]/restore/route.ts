import { restoreRequest } from '@/contract/theme';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { restoreFile } from '@/server/history';
import { answer, bodyOf } from '@/server/http/answers';
import { shop } from '@/server/shop';

/** Puts an earlier content of a file into the shop's own layer again. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, restoreRequest);
    restoreFile(shop(), draftOf(shop(), (await params).draft), asked, authorOf(request));
    return {};
  });
}

import { renameAlternateRequest } from '@/contract/alternates';
import { renameAlternate } from '@/server/alternates';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http/answers';
import { shop } from '@/server/shop';

/** Gives an alternate another name; pins and rules follow. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, renameAlternateRequest);
    return renameAlternate(shop(), draftOf(shop(), (await params).draft), asked, authorOf(request));
  });
}

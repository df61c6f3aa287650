import { namedAlternate } from '@/contract/alternates';
import { makeFile } from '@/server/alternates';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http/answers';
import { shop } from '@/server/shop';

/** Makes the missing file of an alternate. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, namedAlternate);
    return makeFile(shop(), draftOf(shop(), (await params).draft), asked, authorOf(request));
  });
}

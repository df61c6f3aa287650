import { draftOf, historyOf, historyOfFile } from '@/server/drafts';
import { answer, byContract } from '@/server/http';
import { shop } from '@/server/shop';
import { themePath } from '@/contract/shared';

/** Changes of the draft; with `path` those of one file, in any draft. */
export function GET(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const path = new URL(request.url).searchParams.get('path');
    if (path !== null) return historyOfFile(shop(), byContract(path, themePath));
    return historyOf(shop(), draftOf(shop(), (await params).draft));
  });
}

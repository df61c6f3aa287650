import { publishRequest } from '@/contract/api';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http';
import { publish } from '@/server/release';
import { shop } from '@/server/shop';

export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, publishRequest);
    return publish(shop(), draftOf(shop(), (await params).draft), asked, authorOf(request));
  });
}

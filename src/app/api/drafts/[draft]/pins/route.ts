import { pinRequest } from '@/contract/alternates';
import { pinSubjects } from '@/server/alternates';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http';
import { shop } from '@/server/shop';

/** Pins subjects to an alternate, or takes their pins away. */
export function PUT(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, pinRequest);
    return pinSubjects(shop(), draftOf(shop(), (await params).draft), asked, authorOf(request));
  });
}

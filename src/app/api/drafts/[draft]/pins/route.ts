import { pinRequest } from '@/contract/api';
import { alternatesOf, pinSubjects } from '@/server/alternates';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http';
import { shop } from '@/server/shop';

export function PUT(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, pinRequest);
    const { draft } = await params;
    pinSubjects(shop(), draftOf(shop(), draft), asked, authorOf(request));
    return alternatesOf(shop(), draftOf(shop(), draft));
  });
}

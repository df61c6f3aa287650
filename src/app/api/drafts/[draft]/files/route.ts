import { draftOf, listFiles } from '@/server/files';
import { answer } from '@/server/http';
import { shop } from '@/server/shop';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => listFiles(shop(), draftOf(shop(), (await params).draft)));
}

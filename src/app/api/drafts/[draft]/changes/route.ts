import { draftOf } from '@/server/files';
import { answer } from '@/server/http';
import { changesOf } from '@/server/release';
import { shop } from '@/server/shop';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => changesOf(shop(), draftOf(shop(), (await params).draft)));
}

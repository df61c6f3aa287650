import { draftOf } from '@/server/files';
import { answer } from '@/server/http/answers';
import { lookBelow } from '@/server/layers';
import { shop } from '@/server/shop';

/** What the form of the look is made from. */
export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => lookBelow(shop(), draftOf(shop(), (await params).draft)));
}

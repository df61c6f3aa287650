import { draftOf, themeSnapshot } from '@/server/files';
import { answer } from '@/server/http/answers';
import { shop } from '@/server/shop';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => themeSnapshot(shop(), draftOf(shop(), (await params).draft)));
}

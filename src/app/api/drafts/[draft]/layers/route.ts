import { draftOf } from '@/server/files';
import { answer } from '@/server/http';
import { layersOf } from '@/server/layers';
import { shop } from '@/server/shop';

export function GET(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => layersOf(shop(), draftOf(shop(), (await params).draft)));
}

import { copyRequest } from '@/contract/theme';
import { authorOf } from '@/server/author';
import { answer, bodyOf } from '@/server/http/answers';
import { shop } from '@/server/shop';
import { copyState, draftItems } from '@/server/states';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return answer(() => draftItems(shop()));
}

export function POST(request: Request): Promise<Response> {
  return answer(async () => ({ slug: copyState(shop(), await bodyOf(request, copyRequest), authorOf(request)) }));
}

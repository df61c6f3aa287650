import { copyRequest } from '@/contract/drafts';
import { authorOf, answer, bodyOf } from '@/server/http';
import { shop, copyState, draftItems } from '@/server/shop';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return answer(() => draftItems(shop()));
}

export function POST(request: Request): Promise<Response> {
  return answer(async () => ({ slug: copyState(shop(), await bodyOf(request, copyRequest), authorOf(request)) }));
}

import { answer } from '@/server/http';
import { shop, restoreDraft } from '@/server/shop';

/** Puts a deleted draft back. */
export function POST(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    restoreDraft(shop(), (await params).draft);
    return {};
  });
}

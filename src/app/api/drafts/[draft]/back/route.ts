import { answer } from '@/server/http/answers';
import { shop } from '@/server/shop';
import { restoreDraft } from '@/server/states';

/** Puts a deleted draft back. */
export function POST(_: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    restoreDraft(shop(), (await params).draft);
    return {};
  });
}

import type { DraftsAnswer } from '@/contract/api';
import { answer } from '@/server/http';
import { shop } from '@/server/shop';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return answer((): DraftsAnswer => {
    const live = shop().themes.live();
    return {
      drafts: shop()
        .themes.drafts()
        .map(({ slug, name }) => ({ slug: slug ?? '', name })),
      live: live && { number: live.number ?? 0, madeAt: live.madeAt },
    };
  });
}

import { z } from 'zod';
import { liveRequest } from '@/contract/releases';
import { authorOf, answer, bodyOf, byContract } from '@/server/http';
import { putBack } from '@/server/drafts';
import { shop } from '@/server/shop';

/** Makes an earlier release the one that visitors see. */
export function POST(request: Request, { params }: { params: Promise<{ number: string }> }): Promise<Response> {
  return answer(async () => {
    const { turn } = await bodyOf(request, liveRequest);
    putBack(shop(), byContract((await params).number, z.coerce.number().int()), turn, authorOf(request));
    return {};
  });
}

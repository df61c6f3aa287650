import { z } from 'zod';
import { themePath } from '@/contract/api';
import { answer, byContract } from '@/server/http';
import { contentBy } from '@/server/layers';
import { shop } from '@/server/shop';

/** Any content that a path ever had, by its hash. */
export function GET(request: Request): Promise<Response> {
  return answer(() => {
    const query = new URL(request.url).searchParams;
    const hash = byContract(query.get('hash'), z.string().regex(/^[0-9a-f]{32}$/));
    return contentBy(shop(), byContract(query.get('path'), themePath), hash);
  });
}

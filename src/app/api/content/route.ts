import { z } from 'zod';
import { themePath } from '@/contract/shared';
import { answer, byContract, refusing } from '@/server/http';
import { bytesBy, contentBy } from '@/server/drafts';
import { shop } from '@/server/shop';
import { serveContent } from '@/server/storefront';

/** Any content that a path ever had, by its hash; with `raw` its bytes. */
export function GET(request: Request): Promise<Response> {
  const query = new URL(request.url).searchParams;
  const asked = () => ({
    path: byContract(query.get('path'), themePath),
    hash: byContract(query.get('hash'), z.string().regex(/^[0-9a-f]{32}$/)),
  });
  if (query.has('raw'))
    return refusing(async () => {
      const { path, hash } = asked();
      return serveContent(request, path, hash, bytesBy(shop(), path, hash));
    });
  return answer(() => contentBy(shop(), asked().path, asked().hash));
}

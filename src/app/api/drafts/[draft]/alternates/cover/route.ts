import { coverRequest } from '@/contract/alternates';
import { draftOf } from '@/server/drafts';
import { bodyOf, refusing } from '@/server/http';
import { streamWork } from '@/server/threads';
import { shop } from '@/server/shop';

/** Lines of JSON: how far it is, then the map, then what is wrong and what will switch. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => {
    const ask = await bodyOf(request, coverRequest);
    const { slug } = draftOf(shop(), (await params).draft);
    const lines = streamWork({ kind: 'cover', state: `draft/${slug ?? ''}`, ask });
    return new Response(lines, { headers: { 'Content-Type': 'application/x-ndjson', 'Cache-Control': 'no-store' } });
  });
}

import { z } from 'zod';
import { draftOf } from '@/server/drafts';
import { byContract, refusing } from '@/server/http';
import { streamWork } from '@/server/threads';
import { shop } from '@/server/shop';

/** Lines of JSON: which pages another version below would make come out different, so far. */
export function GET(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => {
    const to = byContract(new URL(request.url).searchParams.get('to'), z.coerce.number().int());
    const draft = draftOf(shop(), (await params).draft).slug ?? '';
    const lines = streamWork({ kind: 'update', draft, to });
    return new Response(lines, { headers: { 'Content-Type': 'application/x-ndjson', 'Cache-Control': 'no-store' } });
  });
}

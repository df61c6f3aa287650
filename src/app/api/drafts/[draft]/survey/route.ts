import { surveyRequest } from '@/contract/bench';
import { draftOf } from '@/server/drafts';
import { bodyOf, refusing } from '@/server/http';
import { plainPath, readAsk } from '@/server/bench';
import { shop } from '@/server/shop';
import { streamWork } from '@/server/threads';

/** Lines of JSON, each what was found so far. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return refusing(async () => {
    const { address, try: tried, template, unsaved } = await bodyOf(request, surveyRequest);
    const draft = draftOf(shop(), (await params).draft).slug ?? '';
    const { path } = readAsk(address, tried);
    const lines = streamWork({
      kind: 'survey',
      draft,
      ask: { path: plainPath(shop(), path), tried, template, unsaved },
    });
    return new Response(lines, { headers: { 'Content-Type': 'application/x-ndjson', 'Cache-Control': 'no-store' } });
  });
}

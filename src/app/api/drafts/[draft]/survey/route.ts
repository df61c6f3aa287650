import { benchEndpoints } from '@/contract/bench';
import { plainPath, readAsk } from '@/server/bench';
import { serve } from '@/server/shop';
import { streamWork } from '@/server/threads';

export const POST = serve(
  benchEndpoints.survey,
  ({ shop, draft, body: { address, try: tried, template, unsaved } }) => {
    const path = plainPath(shop, readAsk(address, tried).path);
    return streamWork({ kind: 'survey', draft: draft.slug ?? '', ask: { path, tried, template, unsaved } });
  },
);

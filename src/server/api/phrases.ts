import { maxSheetBytes, phraseEndpoints } from '@/contract/phrases';
import { draftJobs, editInThread } from '@/server/drafts';
import { bytesOf } from '@/server/http';
import { draftNow, inThread, sendFromThread } from '@/server/shop';
import { serveAll } from './serve';

export const phraseCalls = serveAll(phraseEndpoints, {
  all: ({ shop, draft }) => sendFromThread(shop, draftJobs.phrases, draft),
  save: async ({ shop, draft, body, by }) => {
    const { change } = await editInThread(shop, draft, draftJobs.planPhrases, body, by);
    return { change };
  },
  uses: ({ shop, draft, query }) => sendFromThread(shop, draftJobs.phraseUses, draft, query.key),
  sheet: async ({ shop, draft }) =>
    new Response(await inThread(shop, 'preview', draftJobs.phraseSheet, draftNow(shop, draft)), {
      headers: {
        'Content-Type': 'text/csv; charset=utf-8',
        'Content-Disposition': `attachment; filename="phrases-${draft.slug ?? 'draft'}.csv"`,
        'Cache-Control': 'no-store',
      },
    }),
  takeSheet: async ({ request, shop, draft, query, by }) => {
    const bytes = new Uint8Array(await bytesOf(request, maxSheetBytes));
    const { told } = await inThread(shop, 'preview', draftJobs.planSheet, draftNow(shop, draft), bytes);
    if (query.write === 'no') return { ...told, change: null };
    const { change } = await editInThread(shop, draft, draftJobs.planSheetEdit, bytes, by);
    return { ...told, change };
  },
});

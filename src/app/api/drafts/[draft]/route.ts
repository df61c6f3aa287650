import { draftEndpoints } from '@/contract/drafts';
import { draftItem, draftNow, removeDraft, serve } from '@/server/shop';

export const GET = serve(draftEndpoints.one, ({ shop, draft }) => draftItem(shop, draft));

export const PUT = serve(draftEndpoints.rename, ({ shop, draft, body }) => {
  shop.themes.rename(draft.id, body.name, body.note);
  return draftItem(shop, draftNow(shop, draft));
});

export const DELETE = serve(draftEndpoints.remove, ({ shop, draft }) => {
  removeDraft(shop, draft);
  return {};
});

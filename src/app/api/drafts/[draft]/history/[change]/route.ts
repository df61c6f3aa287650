import { historyEndpoints } from '@/contract/history';
import { changeOf, undoChange } from '@/server/drafts';
import { serve } from '@/server/shop';

export const PUT = serve(historyEndpoints.rename, ({ shop, draft, change, body }) => {
  shop.themes.retitle(changeOf(shop, draft, change).id, body.title);
  return {};
});

export const DELETE = serve(historyEndpoints.undo, ({ shop, draft, change, by }) => {
  undoChange(shop, draft, change, by);
  return {};
});

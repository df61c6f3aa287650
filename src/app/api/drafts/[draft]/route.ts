import { renameDraftRequest } from '@/contract/drafts';
import { draftOf } from '@/server/drafts';
import { answer, bodyOf } from '@/server/http';
import { shop, draftItem, removeDraft } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string }>;
}

export function GET(_: Request, { params }: Context): Promise<Response> {
  return answer(async () => draftItem(shop(), draftOf(shop(), (await params).draft)));
}

export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { name, note } = await bodyOf(request, renameDraftRequest);
    const draft = draftOf(shop(), (await params).draft);
    shop().themes.rename(draft.id, name, note);
    return draftItem(shop(), draftOf(shop(), draft.slug ?? ''));
  });
}

export function DELETE(_: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    removeDraft(shop(), draftOf(shop(), (await params).draft));
    return {};
  });
}

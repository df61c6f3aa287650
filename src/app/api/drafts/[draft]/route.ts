import { renameDraftRequest } from '@/contract/theme';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http/answers';
import { shop } from '@/server/shop';
import { draftItem, removeDraft } from '@/server/states';

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

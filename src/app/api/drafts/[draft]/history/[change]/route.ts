import { z } from 'zod';
import { retitleRequest } from '@/contract/history';
import { authorOf, answer, bodyOf, byContract } from '@/server/http';
import { draftOf, changeOf, undoChange } from '@/server/drafts';
import { shop } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string; change: string }>;
}

async function target({ params }: Context) {
  const { draft, change } = await params;
  return { draft: draftOf(shop(), draft), id: byContract(change, z.coerce.number().int()) };
}

/** Names a change. */
export function PUT(request: Request, context: Context): Promise<Response> {
  return answer(async () => {
    const { draft, id } = await target(context);
    const { title } = await bodyOf(request, retitleRequest);
    shop().themes.retitle(changeOf(shop(), draft, id).id, title);
    return {};
  });
}

/** Undoes a change, as a change of its own. */
export function DELETE(request: Request, context: Context): Promise<Response> {
  return answer(async () => {
    const { draft, id } = await target(context);
    undoChange(shop(), draft, id, authorOf(request));
    return {};
  });
}

import { z } from 'zod';
import { updateRequest } from '@/contract/theme';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf, byContract } from '@/server/http';
import { shop } from '@/server/shop';
import { inThread } from '@/server/jobs/services';
import { updateDraft } from '@/server/updates';

interface Context {
  params: Promise<{ draft: string }>;
}

export function GET(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const to = byContract(new URL(request.url).searchParams.get('to'), z.coerce.number().int());
    return inThread(shop(), 'preview', 'update', draftOf(shop(), (await params).draft), to);
  });
}

export function POST(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { to } = await bodyOf(request, updateRequest);
    return updateDraft(shop(), draftOf(shop(), (await params).draft), to, authorOf(request));
  });
}

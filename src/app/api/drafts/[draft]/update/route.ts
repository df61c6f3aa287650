import { z } from 'zod';
import { updateRequest } from '@/contract/layers';
import { authorOf, answer, bodyOf, byContract, refusing } from '@/server/http';
import { draftOf, updateInThread, draftJobs } from '@/server/drafts';
import { shop, sendFromThread } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string }>;
}

export function GET(request: Request, { params }: Context): Promise<Response> {
  return refusing(async () => {
    const to = byContract(new URL(request.url).searchParams.get('to'), z.coerce.number().int());
    return sendFromThread(shop(), draftJobs.update, draftOf(shop(), (await params).draft), to);
  });
}

export function POST(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { to } = await bodyOf(request, updateRequest);
    return updateInThread(shop(), (await params).draft, to, authorOf(request));
  });
}

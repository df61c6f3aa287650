import { makeAlternateRequest } from '@/contract/api';
import { alternatesOf, makeAlternate } from '@/server/alternates';
import { authorOf } from '@/server/author';
import { draftOf } from '@/server/files';
import { answer, bodyOf } from '@/server/http';
import { shop } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string }>;
}

export function GET(_: Request, { params }: Context): Promise<Response> {
  return answer(async () => alternatesOf(shop(), draftOf(shop(), (await params).draft)));
}

export function POST(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const asked = await bodyOf(request, makeAlternateRequest);
    const { draft } = await params;
    makeAlternate(shop(), draftOf(shop(), draft), asked, authorOf(request));
    return alternatesOf(shop(), draftOf(shop(), draft));
  });
}

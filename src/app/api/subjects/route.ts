import { z } from 'zod';
import { subjectKind } from '@/contract/shared';
import { answer, byContract } from '@/server/http';
import { shop } from '@/server/shop';
import { findSubjects } from '@/server/catalogue';

const query = z.object({ q: z.string().max(200).default(''), kind: subjectKind.optional() });

export function GET(request: Request): Promise<Response> {
  return answer(() => {
    const { q, kind } = byContract(Object.fromEntries(new URL(request.url).searchParams), query);
    return findSubjects(shop(), q, kind ?? null);
  });
}

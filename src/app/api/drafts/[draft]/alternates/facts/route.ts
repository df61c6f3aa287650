import { subjectKind } from '@/contract/shared';
import { factsOfKind } from '@/server/alternates';
import { answer, byContract } from '@/server/http';
import { shop } from '@/server/shop';

/** What rules can ask about subjects of a kind. */
export function GET(request: Request): Promise<Response> {
  return answer(() => factsOfKind(shop(), byContract(new URL(request.url).searchParams.get('kind'), subjectKind)));
}

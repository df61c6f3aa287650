import { themePath } from '@/contract/shared';
import { answer, byContract } from '@/server/http';
import { shop } from '@/server/shop';

/** A path in every version of a base or an add-on that has it. */
export function GET(request: Request): Promise<Response> {
  return answer(() => shop().themes.versionsOf(byContract(new URL(request.url).searchParams.get('path'), themePath)));
}

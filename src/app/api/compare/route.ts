import { stateName } from '@/contract/shared';
import { byContract, refusing } from '@/server/http';
import { sendFromThread, shop, stateOf } from '@/server/shop';
import { draftJobs } from '@/server/drafts';

/** What differs from state `a` to state `b`. */
export function GET(request: Request): Promise<Response> {
  return refusing(async () => {
    const query = new URL(request.url).searchParams;
    const [a, b] = ['a', 'b'].map((name) => stateOf(shop(), byContract(query.get(name), stateName)));
    return sendFromThread(shop(), draftJobs.compare, a as NonNullable<typeof a>, b as NonNullable<typeof b>);
  });
}

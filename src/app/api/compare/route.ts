import { stateName } from '@/contract/theme';
import { compareStates } from '@/server/compare';
import { answer, byContract } from '@/server/http/answers';
import { shop } from '@/server/shop';
import { stateOf } from '@/server/states';

/** What differs from state `a` to state `b`. */
export function GET(request: Request): Promise<Response> {
  return answer(() => {
    const query = new URL(request.url).searchParams;
    const [a, b] = ['a', 'b'].map((name) => stateOf(shop(), byContract(query.get(name), stateName)));
    return compareStates(shop(), a as NonNullable<typeof a>, b as NonNullable<typeof b>);
  });
}

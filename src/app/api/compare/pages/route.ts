import { stateName } from '@/contract/shared';
import { byContract, refusing } from '@/server/http';
import { shop, stateOf } from '@/server/shop';
import { streamWork } from '@/server/threads';

/** Lines of JSON: which pages come out different from state `a` to state `b`, so far. */
export function GET(request: Request): Promise<Response> {
  return refusing(async () => {
    const query = new URL(request.url).searchParams;
    const [a = '', b = ''] = ['a', 'b'].map((name) => byContract(query.get(name), stateName));
    for (const name of [a, b]) stateOf(shop(), name);
    const lines = streamWork({ kind: 'differing', a, b });
    return new Response(lines, { headers: { 'Content-Type': 'application/x-ndjson', 'Cache-Control': 'no-store' } });
  });
}

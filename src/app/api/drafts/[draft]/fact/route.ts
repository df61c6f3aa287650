import { factsRequest } from '@/contract/catalogue';
import { answer, bodyOf } from '@/server/http';
import { shop } from '@/server/shop';

/** How often fields of the catalogue's objects are empty, in the order asked. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { fields } = await bodyOf(request, factsRequest);
    return fields.map(({ object, path }) => shop().facts().emptiness(object, path));
  });
}

import { answer } from '@/server/http';
import { shop } from '@/server/shop';

/** How often a field of the catalogue's objects is empty: `?object=Product&path=fields.lead_time`. */
export function GET(request: Request): Promise<Response> {
  return answer(() => {
    const query = new URL(request.url).searchParams;
    const path = (query.get('path') ?? '').split('.').filter(Boolean).slice(0, 6);
    const found = path.length
      ? shop()
          .facts()
          .emptiness(query.get('object') ?? '', path)
      : null;
    return found && { empty: found.empty, total: found.total };
  });
}

import { answer } from '@/server/http';
import { shop, releaseItems } from '@/server/shop';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return answer(() => releaseItems(shop()));
}

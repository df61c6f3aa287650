import { answer } from '@/server/http/answers';
import { shop } from '@/server/shop';
import { releaseItems } from '@/server/states';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return answer(() => releaseItems(shop()));
}

import { robots } from '@/server/machines';
import { shop } from '@/server/shop';
import { originOf } from '@/server/storefront';

export function GET(request: Request): Response {
  const { locales } = shop().catalogue().shop();
  return new Response(robots(originOf(request), locales), { headers: { 'Content-Type': 'text/plain; charset=utf-8' } });
}

import { shop } from '@/server/shop';
import { serveState } from '@/server/storefront';

export function GET(request: Request): Response {
  const live = shop().themes.live();
  if (!live) return new Response('Nothing is live yet: publish a draft.', { status: 404 });
  return serveState(shop(), live, request, new URL(request.url).pathname.replace(/^\/live/, '') || '/');
}

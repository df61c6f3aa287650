import { shop } from '@/server/shop';
import { serveState, takeForm } from '@/server/storefront';

const pathOf = (request: Request): string => new URL(request.url).pathname.replace(/^\/live/, '') || '/';
const nothing = () => new Response('Nothing is live yet: publish a draft.', { status: 404 });

export async function GET(request: Request): Promise<Response> {
  const live = shop().themes.live();
  return live ? serveState(shop(), live, request, pathOf(request)) : nothing();
}

export async function POST(request: Request): Promise<Response> {
  const live = shop().themes.live();
  return live ? takeForm(shop(), live, request, pathOf(request)) : nothing();
}

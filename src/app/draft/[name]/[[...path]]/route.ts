import { shop } from '@/server/shop';
import { serveState } from '@/server/storefront';

export async function GET(request: Request, { params }: { params: Promise<{ name: string }> }): Promise<Response> {
  const { name } = await params;
  const draft = shop().themes.draft(name);
  if (!draft) return new Response(`There is no draft “${name}”.`, { status: 404 });
  return serveState(shop(), draft, request, new URL(request.url).pathname.replace(/^\/draft\/[^/]+/, '') || '/');
}

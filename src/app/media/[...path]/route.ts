import { shop } from '@/server/shop';
import { serveMedia } from '@/server/storefront';

export async function GET(request: Request, { params }: { params: Promise<{ path: string[] }> }): Promise<Response> {
  const { path } = await params;
  return serveMedia(shop(), request, path.map(decodeURIComponent).join('/'));
}

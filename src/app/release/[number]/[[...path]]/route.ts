import { shop } from '@/server/shop';
import { stateOf } from '@/server/states';
import { serveState } from '@/server/storefront';

/** A release as it was, live or not. Nothing is bought in it. */
export async function GET(request: Request, { params }: { params: Promise<{ number: string }> }): Promise<Response> {
  const { number } = await params;
  if (!/^\d{1,7}$/.test(number) || !shop().themes.release(Number(number)))
    return new Response(`There is no release ${number}.`, { status: 404 });
  const path = new URL(request.url).pathname.replace(/^\/release\/\d+/, '') || '/';
  return serveState(shop(), stateOf(shop(), `release/${number}`), request, path);
}

import { shop } from '@/server/shop';
import { serveState, takeForm } from '@/server/storefront';

interface Context {
  params: Promise<{ name: string }>;
}

type Draft = Parameters<typeof serveState>[1];

const pathOf = (request: Request): string => new URL(request.url).pathname.replace(/^\/draft\/[^/]+/, '') || '/';

async function inDraft({ params }: Context, work: (draft: Draft) => Response | Promise<Response>): Promise<Response> {
  const { name } = await params;
  const draft = shop().themes.draft(name);
  return draft ? work(draft) : new Response(`There is no draft “${name}”.`, { status: 404 });
}

export function GET(request: Request, context: Context): Promise<Response> {
  return inDraft(context, (draft) => serveState(shop(), draft, request, pathOf(request)));
}

export function POST(request: Request, context: Context): Promise<Response> {
  return inDraft(context, (draft) => takeForm(shop(), draft, request, pathOf(request)));
}

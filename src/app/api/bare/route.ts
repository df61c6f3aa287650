import { shop } from '@/server/shop';
import { serveState } from '@/server/storefront';

const answers = new Map<string, { bytes: ArrayBuffer; headers: Headers }>();

/** For measuring only (`LAST_BENCH=1`): the bytes of a live page from memory, as fast as a route can send them. */
export async function GET(request: Request): Promise<Response> {
  const live = process.env.LAST_BENCH === '1' ? shop().themes.live() : null;
  const address = new URL(request.url).searchParams.get('page');
  if (!live || address === null) return new Response('Nothing is here.', { status: 404 });
  let answer = answers.get(address);
  if (!answer) {
    const asked = new Request(new URL(`/live${address}`, request.url), { headers: request.headers });
    const made = await serveState(shop(), live, asked, new URL(asked.url).pathname.slice('/live'.length));
    answers.set(address, (answer = { bytes: await made.arrayBuffer(), headers: made.headers }));
  }
  return new Response(answer.bytes, { headers: answer.headers });
}

import type { StateRow } from '@/store/themes';
import { getMedia } from '@/store/media';
import { etagOf, fragmentOf, matches, pageOf } from './page';
import type { Shop } from './shop';

const types: Record<string, string> = {
  css: 'text/css; charset=utf-8',
  js: 'text/javascript; charset=utf-8',
  svg: 'image/svg+xml',
  json: 'application/json',
  png: 'image/png',
  jpg: 'image/jpeg',
  webp: 'image/webp',
  woff2: 'font/woff2',
};

/** Answers a request for a page or an asset of a state of the shop. */
export function serveState(shop: Shop, state: StateRow, request: Request, path: string): Response {
  if (path.startsWith('/assets/')) return serveAsset(shop, state, request, path);
  const url = new URL(request.url);
  const query = Object.fromEntries(url.searchParams);
  const tried = state.kind === 'draft' ? (query.try ?? null) : null;
  if (state.kind === 'draft') delete query.try;
  // On the Bench a page is shown in a frame: there it carries marks that tell where everything comes from, notices where a
  // piece failed, and the script that tells the Bench where it stands.
  const framed = state.kind === 'draft' && request.headers.get('sec-fetch-dest') === 'iframe';
  if (path.startsWith('/fragment/')) return serveFragment(shop, state, path, query);
  const page = pageOf(shop, state, { path, query, tried, traced: framed });
  const html = framed ? withBenchScript(page.html) : page.html;
  const etag = etagOf(html);
  const headers = new Headers({
    'Content-Type': 'text/html; charset=utf-8',
    'Cache-Control': 'no-cache',
    ETag: etag,
    Vary: 'Sec-Fetch-Dest',
    'Content-Security-Policy': "frame-ancestors 'self'",
    'X-Content-Type-Options': 'nosniff',
  });
  if (page.status === 200 && matches(request.headers.get('if-none-match'), etag))
    return new Response(null, { status: 304, headers });
  return new Response(html, { status: page.status, headers });
}

/** A piece by its own address, for scripts to fetch. */
function serveFragment(shop: Shop, state: StateRow, path: string, query: Record<string, string>): Response {
  const made = fragmentOf(shop, state, { path, query });
  if (!made) return new Response(`There is no served piece ${path.slice('/fragment/'.length)}.`, { status: 404 });
  return new Response(made.html, {
    headers: {
      'Content-Type': 'text/html; charset=utf-8',
      'Cache-Control': 'no-cache',
      'X-Content-Type-Options': 'nosniff',
      // Alone in a window its scripts would run with whatever was given in the address.
      'Content-Security-Policy': "frame-ancestors 'self'; sandbox",
      'Access-Control-Allow-Origin': '*',
    },
  });
}

const benchScript = '<script src="/bench-frame.js"></script>';

function withBenchScript(html: string): string {
  const at = html.search(/<head[\s>]/i);
  const end = at < 0 ? 0 : html.indexOf('>', at) + 1;
  return html.slice(0, end) + benchScript + html.slice(end);
}

function serveAsset(shop: Shop, state: StateRow, request: Request, path: string): Response {
  const file = shop.theme(state).theme.file(path.slice(1));
  const bytes = file && shop.themes.bytes(file.hash);
  if (!file || !bytes) return new Response(`There is no file ${path} in this theme.`, { status: 404 });
  const version = new URL(request.url).searchParams.get('v');
  return kept(request, bytes, file.hash, path, version !== null && file.hash.startsWith(version));
}

/** Answers a request for a picture of the catalogue. */
export function serveMedia(shop: Shop, request: Request, path: string): Response {
  const file = getMedia(shop.sql, path);
  if (!file) return new Response(`There is no picture ${path}.`, { status: 404 });
  return kept(request, file.bytes, file.hash, path, false);
}

function kept(request: Request, bytes: Buffer, hash: string, path: string, forGood: boolean): Response {
  const etag = `"${hash}"`;
  const headers = new Headers({
    'Content-Type': types[path.split('.').pop()?.toLowerCase() ?? ''] ?? 'application/octet-stream',
    'Cache-Control': forGood ? 'public, max-age=31536000, immutable' : 'no-cache',
    ETag: etag,
    'X-Content-Type-Options': 'nosniff',
    // A frame of the Bench has an origin of its own: fonts and module scripts need this.
    'Access-Control-Allow-Origin': '*',
  });
  if (/\.svg$/i.test(path))
    headers.set('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'; sandbox");
  if (matches(request.headers.get('if-none-match'), etag)) return new Response(null, { status: 304, headers });
  return new Response(new Uint8Array(bytes), { headers });
}

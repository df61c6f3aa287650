import { type PageAsk, inThread, type Shop } from '@/server/shop';
import type { StateRow, StoredCatalogue } from '@/store';
import { localePrefix, readLocale } from '@/core/address';
import { cartOf, cartToken, postCart, sampleCart } from './cart';
import { robots, sitemap } from './machines';
import { viewHeader } from '@/contract/frame';
import { Day, marksOfView } from '@/core/language';
import { addresses, safetyHeaders, type Refused } from '@/server/http';
import { storefrontJobs, type ReadyPage } from './jobs';
import { laneOf, serveAsset, textAnswer } from './files';
import { prefixOf, today } from './page';
import { fault } from '@/server/log';

/** Scheme and host that the visitor knows this server by; the gate has checked that it answers for that host. */
export function originOf(request: Request): string {
  const scheme = request.headers.get('x-forwarded-proto') === 'https' ? 'https' : 'http';
  return `${scheme}://${request.headers.get('host') ?? new URL(request.url).host}`;
}

/** Answers a request for a page or an asset of a state of the shop. Pages are made in threads: here they are kept and sent. */
export async function serveState(
  shop: Shop,
  state: StateRow,
  request: Request,
  path: string,
  catalogue = shop.catalogue(),
): Promise<Response> {
  try {
    return await serve(shop, state, request, path, catalogue);
  } catch (error) {
    return ended(shop, state, path, readLocale(path, catalogue.shop().locales).locale, error);
  }
}

/** What is sent in place of a page that a thread did not finish. Any other error goes on. */
export function ended(shop: Shop, state: StateRow, path: string, locale: string, error: unknown): Response {
  if ((error as Error).name !== 'JobEnded') throw error;
  fault(`${path} was ended: ${(error as Error).message}`);
  return failed(shop, state, locale, 503);
}

/** What is sent in place of a page that came out empty, or with the page that says that there is none; null for a page as it should be. */
export function faulty(shop: Shop, state: StateRow, locale: string, page: ReadyPage): Response | null {
  if (page.blank) return failed(shop, state, locale, 500);
  return page.status === 200
    ? null
    : new Response(page.bytes, { status: page.status, headers: pageHeaders(state, locale) });
}

async function serve(
  shop: Shop,
  state: StateRow,
  request: Request,
  path: string,
  catalogue: StoredCatalogue,
): Promise<Response> {
  if (path.startsWith('/assets/')) return serveAsset(shop, state, request, path);
  const origin = originOf(request);
  const map = /^\/sitemap(?:-(\d{1,4}))?\.xml$/.exec(path);
  if (map) return serveText(sitemap(shop, state, origin, map[1] ? Number(map[1]) : null), 'application/xml');
  if (path === '/robots.txt')
    return serveText(robots(origin, catalogue.shop().locales, isLive(shop, state)), 'text/plain');
  const url = new URL(request.url);
  const query = Object.fromEntries(url.searchParams);
  const tried = state.kind === 'draft' ? (query.try ?? null) : null;
  const on = state.kind === 'draft' && Day.read(query.on ?? '') ? query.on : undefined;
  if (state.kind === 'draft') {
    delete query.try;
    delete query.on;
    if (path.startsWith('/picture/'))
      return servePicture(shop, state, path, 'sample' in query ? null : (query.of ?? '/'));
  }
  // On the Bench a page is shown in a frame: there it carries marks that tell where everything comes from, notices where a
  // piece failed, and the script that tells the Bench where it stands. Only the workbench may put it into one.
  const dest = request.headers.get('sec-fetch-dest');
  const framed = state.kind === 'draft' && (dest === 'iframe' || (dest === null && 'framed' in query));
  const bare = framed && 'bare' in query;
  const still = framed && 'still' in query;
  if (framed) {
    delete query.bare;
    delete query.still;
    delete query.framed;
  }
  const plain = readLocale(path, catalogue.shop().locales);
  const moved = catalogue.redirects().targetOf(plain.path);
  if (moved !== null) return redirected(state, moved, plain.locale, catalogue, url.search);
  if (plain.path.startsWith('/fragment/')) return serveFragment(shop, state, path, query, request);
  const token = cartToken(request);
  const ask = { path, query, tried, on, traced: framed && !still, origin };
  const sample = framed && token === null && plain.path === '/cart' && !('empty' in query);
  const cart = sample ? sampleCart(shop, plain.locale) : await cartOf(shop, state, ask, token, catalogue);
  const headers = pageHeaders(state, plain.locale);
  if (still) {
    const { html, status } = await inThread(shop, laneOf(state), storefrontJobs.page, state, { ...ask, cart });
    return new Response(stilled(html), { status, headers });
  }
  if (framed) return serveFramed(shop, state, { ...ask, cart }, headers, bare);
  const has = cart.lines.reduce((sum, line) => sum + line.quantity, 0);
  const key = pageKey(shop, state, catalogue, { path, search: url.search, origin, has });
  const ready = await readyPage(shop, state, { ...ask, cart }, key);
  const fault = faulty(shop, state, plain.locale, ready);
  if (fault) return fault;
  if (has) headers.set('Cache-Control', pageHeaders(state, plain.locale, has).get('Cache-Control') ?? 'no-store');
  headers.set('ETag', ready.etag);
  return new Response(ready.bytes, { headers });
}

/** Says that an address has moved for good (RFC 9110, 15.4.2), to a page in the same language. What was asked with it goes along. */
function redirected(
  state: StateRow,
  target: string,
  locale: string,
  catalogue: StoredCatalogue,
  search: string,
): Response {
  const own = target.startsWith('/');
  const location = `${own ? `${prefixOf(state)}${localePrefix(locale, catalogue.shop().locales)}` : ''}${target}`;
  const headers = pageHeaders(state, locale);
  headers.set('Location', search && !target.includes('?') ? `${location}${search}` : location);
  headers.delete('Content-Type');
  return new Response(null, { status: 301, headers });
}

/**
 * A page from the cache, or rendered in a thread and cached under its key (null: it is not cached). One that was made of another release or of other
 * goods is rendered again only where something that it was made from has changed.
 */
export async function readyPage(shop: Shop, state: StateRow, ask: PageAsk, key: PageKey | null): Promise<ReadyPage> {
  if (key === null) return inThread(shop, laneOf(state), storefrontJobs.sent, state, ask, null);
  const before = shop.pages.get(key.name);
  const good = { status: 200, timedOut: false, blank: false } as const;
  if (before?.of === key.of) return { ...before, ...good };
  const page = await inThread(shop, laneOf(state), storefrontJobs.kept, state, ask, before?.from ?? null);
  if (page === null && before) {
    shop.pages.put(key.name, { ...before, of: key.of }, 'same');
    return { ...before, ...good };
  }
  if (page === null) throw new TypeError('A page that is not kept cannot be the same.');
  // One that the clock ended may come out differently the next time.
  if (page.status === 200 && !page.blank && !page.timedOut) {
    const { bytes, etag, from } = page;
    shop.pages.put(key.name, { bytes, etag, from, of: key.of }, before ? 'again' : 'made');
  }
  return page;
}

/** Whether a state is what visitors see, at the address that they use. */
const isLive = (shop: Shop, state: StateRow): boolean =>
  state.address === undefined && shop.themes.live()?.id === state.id;

/** What stands in the place of a page that could not be made: the release's own page for that, or a sentence. */
export function failed(shop: Shop, state: StateRow, locale: string, status: 500 | 503): Response {
  const headers = pageHeaders(state, locale);
  headers.set('Cache-Control', 'no-store');
  headers.set('Retry-After', '5');
  const page = state.kind === 'release' ? shop.themes.errorPage(state.id, locale) : null;
  const plain = '<!doctype html><meta charset="utf-8"><title>Not now</title><p>This page cannot be shown just now.';
  return new Response(page ?? plain, { status, headers });
}

/** A page in the Bench's frame: with marks, the script that talks with the Bench, and a number by which it can be made again. */
async function serveFramed(
  shop: Shop,
  state: StateRow,
  ask: PageAsk,
  headers: Headers,
  bare: boolean,
): Promise<Response> {
  const view = shop.views.add({ draft: state.slug ?? '', kind: 'page', ask });
  const page = await inThread(shop, laneOf(state), storefrontJobs.sent, state, ask, view);
  if (bare)
    headers.set(
      'Content-Security-Policy',
      `${headers.get('Content-Security-Policy')}; script-src ${ask.origin}/bench-frame.js`,
    );
  return new Response(page.bytes, { status: page.status, headers });
}

/** Whether a path of a site, its language aside, is a page: not a file, nor a piece, nor what machines read. */
export const isPage = (path: string): boolean =>
  !/^\/(?:assets|fragment|picture)\/|^\/(?:sitemap[-\d]*\.xml|robots\.txt)$/.test(path);

/** What a cached page is found by, and the state of release and goods that it is good for. */
export interface PageKey {
  name: string;
  of: string;
}

/** The key of a cached page. Null: a page that is not cached. */
export function pageKey(
  shop: Shop,
  state: StateRow,
  catalogue: StoredCatalogue,
  { path, search, origin, has }: { path: string; search: string; origin: string; has: number },
): PageKey | null {
  if (state.kind !== 'release' || /(?:^|\/)cart\/?$/.test(path)) return null;
  return {
    name: `${today()} ${has} ${prefixOf(state)}\n${origin}\n${path}\n${search}`,
    of: `${state.id} ${state.revision} ${catalogue.revision} ${shop.copy || shop.release}`,
  };
}

/**
 * A shared cache (RFC 9111) may send a live page on for a second, and for one more while it asks again; while no server answers, for a day. Browsers ask each
 * time, so that nothing that was changed is shown as it was: the ETag spares the bytes.
 */
const shared = 'public, max-age=0, s-maxage=1, stale-while-revalidate=1, stale-if-error=86400';

/** Headers of a page; `has`: how many things are in the visitor's cart, which is theirs alone to see. */
export const pageHeaders = (state: StateRow, locale: string, has = 0): Headers => {
  const isDraft = state.kind === 'draft';
  const isLive = !isDraft && state.address === undefined;
  return new Headers({
    ...safetyHeaders(isDraft ? 'draft' : 'page', { addresses: addresses() }),
    'Content-Type': 'text/html; charset=utf-8',
    'Content-Language': locale,
    'Cache-Control': !isLive ? 'no-cache' : has ? 'private, no-cache' : shared,
    Vary: isDraft ? 'Cookie, Sec-Fetch-Dest' : 'Cookie',
  });
};

/** Whether a draft's page may have asked for this from within the Bench's frame: as a page in it, or by a script. */
export const inFrame = (request: Request, state: StateRow): boolean =>
  state.kind === 'draft' && ['iframe', 'empty'].includes(request.headers.get('sec-fetch-dest') ?? '');

function serveText(text: string | null, type: string): Response {
  if (text === null) return textAnswer(404, 'There is no such part of the sitemap.');
  return textAnswer(200, text, { 'Content-Type': `${type}; charset=utf-8`, 'Cache-Control': 'no-cache' });
}

/** Takes a form that a page of the shop sent: to its cart. */
export async function takeForm(
  shop: Shop,
  state: StateRow,
  request: Request,
  path: string,
  /** The network address that it came from. */
  address: string,
): Promise<Response> {
  const { path: plain, locale } = readLocale(path, shop.catalogue().shop().locales);
  if (plain !== '/cart') return textAnswer(405, 'Forms are sent to /cart.', { Allow: 'GET, HEAD' });
  const ask = { path, query: {}, tried: null, origin: originOf(request) };
  let made;
  try {
    made = await postCart(shop, state, request, ask, { framed: inFrame(request, state), address });
  } catch (error) {
    if ((error as Error).name !== 'Refused') throw error;
    const { status, body } = error as Refused;
    return textAnswer(status, body.message);
  }
  const headers = pageHeaders(state, locale);
  headers.set('Cache-Control', 'no-store');
  for (const [name, value] of Object.entries(made.headers)) headers.set(name, value);
  if (made.location) headers.set('Location', made.location);
  return new Response(made.html ?? null, { status: made.status, headers });
}

/** A piece's template alone, given the subject of an address (`of`), or sample inputs (null), for a small picture of it. */
async function servePicture(shop: Shop, state: StateRow, path: string, of: string | null): Promise<Response> {
  const name = path.slice('/picture/'.length);
  const html = await (of === null
    ? inThread(shop, laneOf(state), storefrontJobs.sample, state, name)
    : inThread(shop, laneOf(state), storefrontJobs.picture, state, name, of));
  if (html === null)
    return textAnswer(404, `There is no piece ${name}${of === null ? '' : ` that is given what ${of} shows`}.`);
  return new Response(stilled(html), { headers: pageHeaders(state, shop.catalogue().shop().locale) });
}

/** A page as a picture: its frame lets no script run and no player, and a browser would report each that it stopped. */
const stilled = (html: string): string =>
  html.replace(/<script\b[^>]*>[\s\S]*?<\/script\s*>/gi, '').replace(/(<iframe\b[^>]*?)\ssrc="[^"]*"/gi, '$1');

/** A piece by its own address, for scripts to fetch; for the Bench's frame with marks of its own view. */
async function serveFragment(
  shop: Shop,
  state: StateRow,
  path: string,
  query: Record<string, string>,
  request: Request,
): Promise<Response> {
  const traced = inFrame(request, state);
  const unsaved = traced ? shop.views.typedIn(request.headers.get(viewHeader), state.slug ?? '') : [];
  const ask = { path, query, traced, unsaved };
  const made = await inThread(shop, laneOf(state), storefrontJobs.fragment, state, ask);
  if (made === null) return textAnswer(404, `There is no served piece ${path.slice('/fragment/'.length)}.`);
  const html = traced ? marksOfView(made, shop.views.add({ draft: state.slug ?? '', kind: 'fragment', ask })) : made;
  return new Response(html, {
    headers: {
      'Content-Type': 'text/html; charset=utf-8',
      'Cache-Control': 'no-cache',
      ...safetyHeaders('fragment', { addresses: addresses() }),
    },
  });
}

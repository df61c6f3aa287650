import { readFileSync } from 'node:fs';
import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import { Readable } from 'node:stream';
import type { StateRow, StoredCatalogue } from '@/store';
import { tokenIn } from './cart';
import { type Answer, deliver } from './deliver';
import { playerPage } from './player';
import type { MadePage, Shop } from '@/server/shop';
import type { ReadyPage } from './jobs';
import { serveMedia } from './files';
import { ended, failed, faulty, isPage, pageHeaders, pageKey, readyPage, serveState, takeForm } from './storefront';
import { readLocale } from '@/core/address';
import { inProgram } from '@/server/jobs';
import { fault, idIn } from '@/server/log';
import { type Addresses, type Site, siteGate, soundAddress, type Knock, safetyHeaders } from '@/server/http';

/** Who may look at drafts and releases: null, they may; `no`, they may not; else the way by which they can. */
export interface Lock {
  at(request: IncomingMessage): { to: string; cookies: string[] } | null | 'no';
}

/** Who answers in the place of a render node where carts and forms are kept elsewhere. */
export interface Elsewhere {
  takes(request: IncomingMessage): boolean;
  /** False: nobody answers there, and nothing was sent. */
  forward(request: IncomingMessage, response: ServerResponse): Promise<boolean>;
}

/**
 * Answers for the shop, drafts and releases, each by its host name: a handler of `node:http`, with nothing of the workbench in
 * it. Pages that are kept are sent from here at once; whatever else is asked is made by `serveState`.
 */
export function siteListener(
  shop: () => Shop,
  addresses: Addresses,
  {
    together = false,
    lock = null,
    shopOnly = false,
    elsewhere = null,
  }: {
    together?: boolean;
    lock?: Lock | null;
    /** There is the live shop alone, by its names and by this machine's own. */
    shopOnly?: boolean;
    /** Carts are kept there; null: here. */
    elsewhere?: Elsewhere | null;
  } = {},
): RequestListener {
  const script = new BenchScript();
  return (request, response) => {
    void answer(request, response).catch((error: unknown) => {
      fault(error as Error, idIn(request));
      if (response.headersSent) response.destroy();
      else say(response, 500, 'Last failed at this. What happened stands in the server’s log.');
    });
  };

  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const refusal = siteGate(knockOf(request), addresses);
    if (refusal) return say(response, refusal.status, refusal.message);
    const host = request.headers.host ?? '';
    const address = soundAddress(request.url ?? '/');
    const below = together ? siteBelow(address) : null;
    const named = together ? (below?.site ?? null) : addresses.siteOf(host);
    const site = shopOnly ? onlyShop(named, host) : named;
    const whole = address.split('?')[0] ?? '/';
    if (site || together) {
      if (whole === '/bench-frame.js') return script.send(request, response);
      if (whole.startsWith('/player/')) return send(request, response, player(whole, addresses));
      if (whole.startsWith('/media/')) {
        const picture = decodeURIComponent(whole.slice('/media/'.length));
        return send(request, response, await serveMedia(shop(), toRequest(request, address), picture));
      }
    }
    if (!site) {
      if (!together && !shopOnly && addresses.isPlain(host)) return goTo(response, addresses.shop + address);
      return say(response, together ? 404 : 421, `Nothing of this shop is at “${host}${together ? whole : ''}”.`);
    }
    const way = site.kind === 'shop' ? null : (lock?.at(request) ?? null);
    if (way === 'no') return say(response, 403, 'Only who works here may look at this: open it from the workbench.');
    if (way) return turn(response, way);
    const inside = below?.address ?? address;
    const path = inside.split('?')[0] ?? '/';
    const isElsewhere = elsewhere !== null && !path.startsWith('/assets/') && elsewhere.takes(request);
    if (isElsewhere && (await elsewhere.forward(request, response))) return;
    const resolved = resolve(site, elsewhere ? null : tokenIn(request.headers.cookie));
    const { state, catalogue } = resolved;
    if (!state) return say(response, 404, absent(site));
    // Without its cart a page is what it is for everyone; the cart itself, and what is sent to it, has to wait.
    if (isElsewhere && (request.method === 'POST' || /\/cart\/?$/.test(path)))
      return send(request, response, failed(shop(), state, readLocale(path, catalogue.shop().locales).locale, 503));
    if (request.method === 'POST') {
      await shop().writable();
      return send(
        request,
        response,
        await takeForm(shop(), state, toRequest(request, address), path, sender(request, addresses)),
      );
    }
    const page = site.kind === 'draft' ? null : pageAt(request, { ...resolved, state, address: inside });
    if (page) {
      const cached = shop().pages.get(page.key.name);
      if (cached?.of === page.key.of)
        return deliver(request, response, pageAnswer(shop(), state, page.locale, resolved.has, cached));
      if (resolved.token === null) return renderPage(request, response, state, page);
    }
    return send(request, response, await serveState(shop(), state, toRequest(request, address), path, catalogue));
  }

  /** The shop, by a name of its own or of this machine; null for any other. */
  function onlyShop(named: Site | null, host: string): Site | null {
    return named?.kind === 'shop' || addresses.isPlain(host) ? { kind: 'shop' } : null;
  }

  /** What a request is for, in one query at most: the state that its site shows, the catalogue, and what is in the visitor's cart. */
  function resolve(site: Site, token: string | null): Resolved {
    const { state, shop: row, has } = shop().visit(site, token);
    const address = site.kind === 'release' ? { address: `/release/${site.number}` } : {};
    return { state: state && { ...state, ...address }, catalogue: shop().catalogue(null, row), token, has };
  }

  /** The page that a request is for, with the key that it is cached under; null where the general way is needed. */
  function pageAt(
    request: IncomingMessage,
    { state, catalogue, has, address }: Resolved & { state: StateRow; address: string },
  ) {
    const at = address.indexOf('?');
    const [path, search] = at < 0 ? [address, ''] : [address.slice(0, at), address.slice(at)];
    const origin = `${addresses.setup.proxy ? 'https' : 'http'}://${request.headers.host ?? ''}`;
    const { locale, path: plain } = readLocale(path, catalogue.shop().locales);
    // An address that leads elsewhere is looked into the general way.
    const own = isPage(plain) && catalogue.redirects().targetOf(plain) === null;
    const key = own ? pageKey(shop(), state, catalogue, { path, search, origin, has }) : null;
    return key === null ? null : { key, path, search, origin, locale };
  }

  /** Renders a page for a visitor without a cart, and sends it. */
  async function renderPage(
    request: IncomingMessage,
    response: ServerResponse,
    state: StateRow,
    { key, path, search, origin, locale }: NonNullable<ReturnType<typeof pageAt>>,
  ): Promise<void> {
    const query = Object.fromEntries(new URLSearchParams(search));
    let page: ReadyPage;
    try {
      page = await readyPage(shop(), state, { path, query, origin, cart: { lines: [] } }, key);
    } catch (error) {
      return send(request, response, ended(shop(), state, path, locale, error));
    }
    const fault = faulty(shop(), state, locale, page);
    return fault
      ? send(request, response, fault)
      : deliver(request, response, pageAnswer(shop(), state, locale, 0, page));
  }
}

/** What a request of a site is for. */
interface Resolved {
  state: StateRow | null;
  catalogue: StoredCatalogue;
  /** Of the visitor's cart. */
  token: string | null;
  /** How many things are in it. */
  has: number;
}

/** What is said where a site has no state to show. */
function absent(site: Site): string {
  if (site.kind === 'shop') return 'Nothing is live yet: publish a draft.';
  return site.kind === 'draft' ? `There is no draft “${site.slug}”.` : `There is no release ${site.number}.`;
}

/** A page as it is sent. Caches are told its groups, but of one that is a visitor's own, or that the clock ended. */
function pageAnswer(
  shop: Shop,
  state: StateRow,
  locale: string,
  has: number,
  page: MadePage & { from: string | null; timedOut?: boolean },
): Answer {
  const { bytes, etag } = page;
  const headers = keptHeaders(state, locale, has);
  const groups = has || page.timedOut || state.address !== undefined ? undefined : shop.pages.sent?.groupsFor(page);
  return { status: 200, headers: groups === undefined ? headers : { ...headers, 'cache-groups': groups }, bytes, etag };
}

const headersByKind = new Map<string, Record<string, string>>();

/** A page's headers, as node:http takes them. */
function keptHeaders(state: StateRow, locale: string, has: number): Record<string, string> {
  const key = `${state.kind} ${state.address === undefined} ${has > 0} ${locale}`;
  let headers = headersByKind.get(key);
  if (!headers) headersByKind.set(key, (headers = Object.fromEntries(pageHeaders(state, locale, has))));
  return headers;
}

/** Where on the network a request comes from: who asks, or who asks the server in front, which adds its last word. */
function sender({ headers, socket }: IncomingMessage, addresses: Addresses): string {
  const forwarded = addresses.setup.proxy ? headers['x-forwarded-for'] : undefined;
  return (
    String(forwarded ?? '')
      .split(',')
      .pop()
      ?.trim() ||
    (socket.remoteAddress ?? '')
  );
}

export function knockOf(request: IncomingMessage): Knock {
  const { method = 'GET', url = '/', headers, rawHeaders } = request;
  let hosts = 0;
  for (let at = 0; at < rawHeaders.length; at += 2) if (rawHeaders[at]?.toLowerCase() === 'host') hosts++;
  return { method, url, headers, hosts };
}

/** Where drafts have no host names: the site that an address begins with, and the address within it. */
function siteBelow(address: string): { site: Site; address: string } | null {
  const found = /^\/(?:draft\/([a-z0-9-]+)|release\/(\d{1,7}))(?=[/?]|$)(.*)$/.exec(address);
  if (!found) return null;
  const [, slug, number, rest = ''] = found;
  const site: Site = slug ? { kind: 'draft', slug } : { kind: 'release', number: Number(number) };
  return { site, address: rest.startsWith('/') ? rest : `/${rest}` };
}

/** The same request as the Fetch Standard knows it. */
function toRequest(request: IncomingMessage, address: string): Request {
  const headers = new Headers();
  for (let at = 0; at < request.rawHeaders.length; at += 2)
    headers.append(request.rawHeaders[at] as string, request.rawHeaders[at + 1] as string);
  const body = request.method === 'POST' ? (Readable.toWeb(request) as ReadableStream<Uint8Array>) : null;
  return new Request(new URL(address, `http://${request.headers.host ?? 'shop.invalid'}`), {
    method: request.method ?? 'GET',
    headers,
    ...(body ? { body, duplex: 'half' as const } : {}),
  } as RequestInit);
}

async function send(request: IncomingMessage, response: ServerResponse, made: Response): Promise<void> {
  const headers: Answer['headers'] = Object.fromEntries(made.headers);
  const cookies = made.headers.getSetCookie();
  if (cookies.length) headers['set-cookie'] = cookies;
  const bytes = Buffer.from(await made.arrayBuffer());
  const { etag = null, ...rest } = headers;
  return deliver(request, response, { status: made.status, headers: rest, bytes, etag: etag && String(etag) });
}

function player(path: string, addresses: Addresses): Response {
  return new Response(playerPage(decodeURIComponent(path.slice('/player/'.length))), {
    headers: {
      ...safetyHeaders('document', { addresses }),
      'Content-Type': 'text/html; charset=utf-8',
      'Cache-Control': 'public, max-age=3600',
    },
  });
}

/** A sentence in place of a page. */
export function say(response: ServerResponse, status: number, text: string): void {
  response.writeHead(status, {
    'Content-Type': 'text/plain; charset=utf-8',
    'Content-Security-Policy': "default-src 'none'; frame-ancestors 'none'; sandbox",
    'X-Content-Type-Options': 'nosniff',
    'Cache-Control': 'no-store',
    ...(status >= 400 && status !== 404 ? { Connection: 'close' } : {}),
  });
  response.end(text);
}

/** Sends whoever asks elsewhere, this once. */
function turn(response: ServerResponse, { to, cookies }: { to: string; cookies: string[] }): void {
  response.writeHead(303, {
    Location: to,
    'Cache-Control': 'no-store',
    'Referrer-Policy': 'no-referrer',
    ...(cookies.length ? { 'Set-Cookie': cookies } : {}),
  });
  response.end();
}

export function goTo(response: ServerResponse, location: string): void {
  response.writeHead(308, { Location: location, 'Cache-Control': 'no-store' });
  response.end();
}

/** The script of pages in the Bench's frame, read once. */
class BenchScript {
  #bytes: Buffer | null = null;

  send(request: IncomingMessage, response: ServerResponse): void {
    this.#bytes ??= readFileSync(inProgram('public/bench-frame.js'));
    response.writeHead(200, {
      'Content-Type': 'text/javascript; charset=utf-8',
      'X-Content-Type-Options': 'nosniff',
      'Cache-Control': 'no-cache',
      'Content-Length': this.#bytes.length,
    });
    response.end(request.method === 'HEAD' ? undefined : this.#bytes);
  }
}

import { createHmac, timingSafeEqual } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import { type Addresses, cookieIn, cookieText } from '@/server/http';
import { ClosedDrafts, signingKey, type Statements } from '@/store';

/** How long a pass may be on its way, and how long a browser may look at drafts with it, in milliseconds. */
const passMs = 60_000;
const lookMs = 12 * 60 * 60 * 1000;

/** What is asked for a pass: the workbench, where it is known who asks. */
export const lookPath = '/look';

/**
 * Drafts and releases have host names of their own, where nobody is known: who wants to look there is sent to the workbench, which gives
 * whoever is signed in a pass for that host, and the host a cookie for the pass.
 */
export class Looks {
  readonly #key: () => Buffer;
  readonly #closed: ClosedDrafts;

  constructor(
    sql: Statements,
    readonly addresses: Addresses,
    readonly now: () => number = Date.now,
  ) {
    this.#key = () => signingKey(sql);
    this.#closed = new ClosedDrafts(sql);
  }

  /** Where a request for a draft's or a release's page goes first; null: it may be answered; `no`: it may not. */
  at({ method = 'GET', url = '/', headers }: Pick<IncomingMessage, 'method' | 'url' | 'headers'>): Way | null | 'no' {
    const host = headers.host ?? '';
    const { proxy } = this.addresses.setup;
    const origin = `${proxy ? 'https' : 'http'}://${host}`;
    if (!URL.canParse(url, origin)) return 'no';
    const to = new URL(url, origin);
    const pass = to.searchParams.get('pass');
    const all = pass !== null && this.#holds('pass-all', host, pass);
    if (pass !== null && (all || this.#holds('pass', host, pass))) {
      to.searchParams.delete('pass');
      const look = this.#sign(all ? 'look-all' : 'look', host, lookMs);
      const cookie = cookieText(proxy ? 'framed-look' : 'look', look, lookMs / 1000, proxy);
      return { to: to.href, cookies: [cookie] };
    }
    const look = cookieIn('look', proxy, headers.cookie) ?? '';
    if (this.#holds('look-all', host, look)) return null;
    if (this.#holds('look', host, look) && !this.#isClosed(to)) return null;
    // What is part of a page is not sent elsewhere: the page is.
    const isPage =
      method === 'GET' && !/^(?:empty|script|style|image|font)$/.test(String(headers['sec-fetch-dest'] ?? ''));
    if (!isPage || pass !== null) return 'no';
    return {
      to: `${this.addresses.workbenchFor(to.hostname)}${lookPath}?${new URLSearchParams({ to: to.href }).toString()}`,
      cookies: [],
    };
  }

  /** Where whoever is signed in goes on with a pass (`all`: for drafts that are kept to developers too); null: that is no page for them. */
  passTo(text: string | null, all: boolean): string | null {
    if (!text || !URL.canParse(text)) return null;
    const to = new URL(text);
    const { proxy } = this.addresses.setup;
    if (to.protocol !== (proxy ? 'https:' : 'http:') || to.username || to.password) return null;
    if (!this.addresses.isOfDrafts(to)) return null;
    if (!all && this.#isClosed(to)) return null;
    to.searchParams.set('pass', this.#sign(all ? 'pass-all' : 'pass', to.host, passMs));
    return to.href;
  }

  /** Whether an address is one of a draft that is kept to developers. */
  #isClosed({ host, pathname }: URL): boolean {
    const site = this.addresses.apart ? this.addresses.siteOf(host) : null;
    const slug = site?.kind === 'draft' ? site.slug : /^\/draft\/([^/]+)\//.exec(pathname)?.[1];
    return slug !== undefined && this.#closed.hasSlug(slug);
  }

  #sign(what: string, host: string, holds: number): string {
    const until = (this.now() + holds).toString(36);
    return `${until}.${this.#mac(what, host, until)}`;
  }

  #holds(what: string, host: string, text: string): boolean {
    const [until = '', given = ''] = text.split('.');
    const time = parseInt(until, 36);
    if (!(time > this.now()) || time > this.now() + lookMs) return false;
    const [a, b] = [Buffer.from(given), Buffer.from(this.#mac(what, host, until))];
    return a.length === b.length && timingSafeEqual(a, b);
  }

  #mac(what: string, host: string, until: string): string {
    return createHmac('sha256', this.#key()).update(`${what}\n${host.toLowerCase()}\n${until}`).digest('base64url');
  }
}

interface Way {
  to: string;
  cookies: string[];
}

import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { localePrefix, pathOf } from '@/core/address';
import { Addresses, safetyHeaders, setAddresses, setupFrom } from '@/server/http';
import { inThread, Shop, type PageAsk } from '@/server/shop';
import { playerPage, robots, serveMedia, serveState, sitemap, storefrontJobs } from '@/server/storefront';
import { DataFolderError, findSubjects, releaseFault, type StateRow } from '@/store';
import { fileOf, foundIn, foundInSheet } from './addresses';
import { SiteFiles } from './files';
import { Made } from './made';
import { siteConfig } from './nginx';
import { isSearch, wordsOf } from './suggestions';

export interface SiteSetup {
  /** The release file. */
  file: string;
  /** A folder of its own: the site is in `public` below it, the configuration of nginx beside that. */
  out: string;
  /** The name that the shop is known by. */
  host: string;
  /** Where a render node listens, for carts, searches, orders and filters: `127.0.0.1:4180`; null: there is none, forms that need one are left out. */
  node: string | null;
  /** Where nginx listens. */
  port: number;
}

export interface SiteMade {
  pages: number;
  /** Pages that were made, not found to be the same. */
  made: number;
  files: number;
  /** Files that were written, and bytes of them before they were made shorter. */
  written: number;
  bytes: number;
  removed: number;
  /** What could not be made, a sentence each. */
  faults: string[];
}

/** Files that are written at once. */
const atOnce = 16;
/** Changes of how a site is written that make all of it again. */
const form = 2;

/**
 * Writes a shop as files that any web server serves: every page in every language, with the pages of its lists, files, pictures, the map, redirects. What was
 * written before and has not changed stays as it is.
 *
 * @throws DataFolderError when the release file cannot be used
 */
export async function makeSite({ file, out, host, node, port }: SiteSetup): Promise<SiteMade> {
  const wrong = releaseFault(file);
  if (wrong) throw new DataFolderError(`${file} cannot be used: ${wrong}.`);
  const origin = `https://${host}`;
  const setup = setupFrom({ LAST_SHOP_HOST: host, LAST_PROXY: '1' }, { port: 0, sitePort: 0, draftPort: 0 });
  const addresses = new Addresses(setup);
  setAddresses(addresses);
  mkdirSync(out, { recursive: true });
  const work = mkdtempSync(join(tmpdir(), 'last-site-'));
  const shop = new Shop(work, { release: file });
  try {
    const live = shop.themes.live();
    if (!live) throw new DataFolderError(`${file} holds no live shop.`);
    const { locales } = shop.catalogue().shop();
    const moved = movedIn(shop);
    const making = new Making(shop, live, { origin, node, out, moved });
    const made = await making.all();
    const headers = safetyHeaders('page', { addresses });
    const ofPlayers = safetyHeaders('document', { addresses });
    const ofPieces = safetyHeaders('fragment', { addresses });
    writeFileSync(
      join(out, 'site.conf'),
      siteConfig({ root: making.files.root, host, node, port, moved, headers, ofPlayers, ofPieces, locales }),
    );
    return made;
  } finally {
    shop.carts.db.close();
    shop.sql.db.close();
    rmSync(work, { recursive: true, force: true });
  }
}

/** An address that moved, in a language, with where it leads now. */
interface Moved {
  from: string;
  to: string;
  locale: string;
}

function movedIn(shop: Shop): Moved[] {
  const { locales } = shop.catalogue().shop();
  return shop
    .catalogue()
    .redirectRows()
    .flatMap(({ path, target }) =>
      locales.map((locale) => {
        const base = localePrefix(locale, locales);
        return { from: base + path, to: target.startsWith('/') ? base + target : target, locale };
      }),
    );
}

/** One making of a site. */
class Making {
  readonly files: SiteFiles;
  readonly #before: Made;
  readonly #now: Made;
  readonly #faults: string[] = [];
  readonly #wanted = new Set<string>();
  /** Served pieces that pages name for their scripts. */
  readonly #pieces = new Set<string>();
  readonly #writing = new Set<Promise<void>>();
  #made = 0;

  constructor(
    readonly shop: Shop,
    readonly state: StateRow,
    readonly to: { origin: string; node: string | null; out: string; moved: readonly Moved[] },
  ) {
    this.files = new SiteFiles(join(to.out, 'public'));
    mkdirSync(this.files.root, { recursive: true });
    const setup = JSON.stringify([form, to.origin, to.node !== null]);
    this.#before = Made.read(this.#list, setup);
    this.#now = new Made(setup);
  }

  get #list(): string {
    return join(this.to.out, 'made.json');
  }

  async all(): Promise<SiteMade> {
    const { locales } = this.shop.catalogue().shop();
    const subjects = findSubjects(this.shop.sql, '', null, 10_000_000).filter(
      ({ kind, slug }) => kind !== 'cart' && !(kind === 'listing' && slug === 'search'),
    );
    const pages = subjects.flatMap((one) => locales.map((locale) => localePrefix(locale, locales) + pathOf(one)));
    const seen = new Set(pages);
    for (let at = 0; at < pages.length; at++) {
      for (const further of await this.#page(pages[at] as string)) {
        if (seen.has(further)) continue;
        seen.add(further);
        pages.push(further);
      }
    }
    const count = this.#now.pages.size;
    await this.#assets();
    await this.#suggestions();
    await this.#machines();
    for (const locale of locales) await this.#notFound(localePrefix(locale, locales));
    await this.#moved();
    await Promise.all(this.#writing);
    const removed = await this.files.prune(new Set(this.#before.files));
    this.#now.files = [...this.files.named];
    this.#now.write(this.#list);
    return {
      ...{ pages: count, made: this.#made, files: this.files.named.size, removed },
      ...{ written: this.files.written, bytes: this.files.bytes, faults: this.#faults },
    };
  }

  /** Writes beside other work; waits where much is being written. */
  async #write(name: string, bytes: Uint8Array): Promise<void> {
    while (this.#writing.size >= atOnce) await Promise.race(this.#writing);
    const one = this.files.write(name, bytes).finally(() => this.#writing.delete(one));
    this.#writing.add(one);
  }

  /** Makes a page where something that it was made from has changed; gives the further pages of its list. */
  async #page(address: string): Promise<string[]> {
    const name = fileOf(address, true);
    if (name === null) return this.#fault(`${address}: no file may be called so.`);
    const url = new URL(address, this.to.origin);
    const ask: PageAsk = { path: address.split('?')[0] ?? '/', query: Object.fromEntries(url.searchParams) };
    const was = this.files.has(name) ? (this.#before.pages.get(address) ?? null) : null;
    const asked = { ...ask, origin: this.to.origin, cart: { lines: [] } };
    const page = await inThread(this.shop, 'live', storefrontJobs.kept, this.state, asked, was?.from ?? null);
    let found = was;
    if (page === null) this.files.keep(name);
    else {
      if (page.blank || page.timedOut) return this.#fault(`${address}: the page cannot be made whole.`);
      if (page.status !== 200) return [];
      const html = this.#withoutForms(Buffer.from(page.bytes).toString());
      found = { ...foundIn(html, this.to.origin), from: page.from };
      this.#made++;
      await this.#write(name, Buffer.from(html));
    }
    if (!found) return [];
    this.#now.pages.set(address, found);
    for (const file of found.files) await this.#file(file);
    // Where there is a node it shows variants: nearly as many pages again are spared.
    return this.to.node === null ? found.pages : found.pages.filter((one) => one.includes('?page='));
  }

  /** Where no node answers them, forms of the cart and of the search are left out. */
  #withoutForms(html: string): string {
    if (this.to.node !== null) return html;
    return html.replace(
      /<form\b[^>]*\saction="[^"]*\/(?:cart|listing\/search)(?:\?[^"]*)?"[^>]*>[\s\S]*?<\/form>/g,
      '',
    );
  }

  async #file(address: string): Promise<void> {
    if (this.#wanted.has(address)) return;
    this.#wanted.add(address);
    const isPlayer = address.startsWith('/player/');
    const name = fileOf(address, isPlayer);
    if (name === null) return void this.#fault(`${address}: no file may be called so.`);
    if (/^(?:\/[\w-]+)?\/fragment\//.test(address)) return void this.#pieces.add(address);
    if (isPlayer) {
      const id = decodeURIComponent(address.replace(/\?.*$/, '').slice('/player/'.length));
      return this.#write(name, Buffer.from(playerPage(id)));
    }
    const isSheet = /\.css(?:\?|$)/.test(address);
    // A version in the address names its content.
    if (/[?&]v=/.test(address) && this.files.has(name) && !isSheet) return this.files.keep(name);
    const url = new URL(address, this.to.origin);
    const request = new Request(url);
    const [, media] = /^\/media\/(.+)$/.exec(url.pathname) ?? [];
    const answer = await (media === undefined
      ? serveState(this.shop, this.state, request, url.pathname)
      : serveMedia(this.shop, request, decodeURIComponent(media)));
    if (answer.status !== 200) return void this.#fault(`${address} is not there.`);
    const bytes = Buffer.from(await answer.arrayBuffer());
    await this.#write(name, bytes);
    if (isSheet) for (const one of foundInSheet(bytes.toString(), address)) await this.#file(one);
  }

  /** Every file of the theme by its plain address too, as scripts name one another. */
  async #assets(): Promise<void> {
    const { theme } = this.shop.theme(this.state);
    for (const path of theme.paths()) if (/^assets\/(?!icons\/)/.test(path)) await this.#file(`/${encodeURI(path)}`);
  }

  /** What pieces find that pages search with while someone types, for the first letters: further ones are asked of the node. */
  async #suggestions(): Promise<void> {
    if (this.to.node === null) return;
    for (const piece of this.#pieces)
      for (const address of wordsOf(this.shop, this.state, piece)) {
        const name = fileOf(address, true);
        if (name === null) continue;
        const url = new URL(address, this.to.origin);
        const ask = { path: url.pathname, query: Object.fromEntries(url.searchParams), origin: this.to.origin };
        const was = this.files.has(name) ? (this.#before.pages.get(address) ?? null) : null;
        const made = await inThread(this.shop, 'live', storefrontJobs.keptPiece, this.state, ask, was?.from ?? null);
        // A piece that does not search makes nothing of words.
        if (made && !isSearch(made.from)) break;
        if (made) await this.#write(name, Buffer.from(made.html));
        else this.files.keep(name);
        const found = made ? { ...foundIn(made.html, this.to.origin), from: made.from } : was;
        if (!found) continue;
        this.#now.pages.set(address, found);
        for (const file of found.files) await this.#file(file);
      }
  }

  async #machines(): Promise<void> {
    const { origin } = this.to;
    const whole = sitemap(this.shop, this.state, origin, null) ?? '';
    await this.#write('sitemap.xml', Buffer.from(whole));
    for (let part = 1; ; part++) {
      const text = sitemap(this.shop, this.state, origin, part);
      if (text === null) break;
      await this.#write(`sitemap-${part}.xml`, Buffer.from(text));
    }
    const { locales } = this.shop.catalogue().shop();
    await this.#write('robots.txt', Buffer.from(robots(origin, locales, true)));
  }

  async #notFound(base: string): Promise<void> {
    const ask = { path: `${base}/no-such-page`, query: {}, origin: this.to.origin, cart: { lines: [] } };
    const { bytes } = await inThread(this.shop, 'live', storefrontJobs.sent, this.state, ask, null);
    await this.#write(
      `${base.slice(1)}${base ? '/' : ''}not-found.html`,
      Buffer.from(this.#withoutForms(Buffer.from(bytes).toString())),
    );
  }

  /** For hosts that take no configuration: a page at each address that moved, which leads on. */
  async #moved(): Promise<void> {
    const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll('<', '&lt;');
    for (const { from, to: target, locale } of this.to.moved) {
      const name = fileOf(from, true);
      if (name === null || this.files.named.has(name)) continue;
      const to = escaped(target);
      const page = `<!doctype html><html lang="${locale}"><meta charset="utf-8"><title>${to}</title><link rel="canonical" href="${to}"><meta http-equiv="refresh" content="0; url=${to}"><a href="${to}">${to}</a></html>\n`;
      await this.#write(name, Buffer.from(page));
    }
  }

  #fault(sentence: string): [] {
    this.#faults.push(sentence);
    return [];
  }
}

import { draftBase, draftOfLabel, releaseBase, type SiteAddresses } from '@/contract/addresses';

/**
 * Where the workbench, the live shop, drafts and earlier releases are found. Each has an origin of its own, so that a
 * theme's script finds nothing of the others. Host names are what counts: a browser keeps cookies by name, whatever the port.
 */

/** What a request by the site's port is for. */
export type Site = { kind: 'shop' } | { kind: 'draft'; slug: string } | { kind: 'release'; number: number };

/** How a server is set up: from the environment, ports as they were found to be free. */
export interface Setup {
  /** Of the workbench. */
  port: number;
  /** Of the shop, and of drafts by their host names. */
  sitePort: number;
  /** Of drafts where they have no host names. */
  draftPort: number;
  bind: string;
  /** `LAST_HOST`: names of the workbench, separated by commas. */
  host: string;
  /** `LAST_SHOP_HOST`: names of the shop; the first is the one that it is known by. */
  shopHost: string;
  /** `LAST_DRAFT_HOST`: `*.drafts.example.org`. */
  draftHost: string;
  /** `LAST_PROXY=1`: a front server stands before this one, and speaks HTTPS. */
  proxy: boolean;
}

const loopback = ['127.0.0.1', 'localhost', '[::1]'];

const listed = (names: string): string[] =>
  names
    .split(',')
    .map((one) => one.trim().toLowerCase())
    .filter(Boolean);

/** A host name without its port. */
const nameOf = (host: string): string => host.replace(/:\d+$/, '');

export const isLoopback = (bind: string): boolean => bind === 'localhost' || bind === '::1' || /^127\./.test(bind);

export class Addresses implements SiteAddresses {
  readonly setup: Setup;
  /** Hosts (name, with or without port) of the workbench. */
  readonly workbenchHosts: ReadonlySet<string>;
  /** Origins that the workbench is opened by. */
  readonly workbenchOrigins: readonly string[];
  /** Whether shop and drafts have host names of their own. Otherwise drafts share one origin, and cookies are shared by all. */
  readonly apart: boolean;
  /** Base of the live shop's addresses. */
  readonly shop: string;
  /** Base of a draft's addresses, with `*` for its name. */
  readonly drafts: string;
  readonly #shopNames: ReadonlySet<string>;
  /** Suffix of drafts' host names, with its dot. */
  readonly #draftSuffix: string;

  constructor(setup: Setup) {
    this.setup = setup;
    const { port, sitePort, draftPort, bind, host, shopHost, draftHost, proxy } = setup;
    const named = listed(host);
    const shopNames = listed(shopHost);
    const scheme = proxy ? 'https' : 'http';
    const own = (ofPort: number) =>
      new Set([...loopback, ...named].flatMap((one) => [one, `${nameOf(one)}:${ofPort}`]));
    this.workbenchHosts = own(port);
    this.workbenchOrigins = [
      ...loopback.map((one) => `http://${one}:${port}`),
      ...named.flatMap((one) => [
        `${scheme}://${one}`,
        ...(proxy || /:\d+$/.test(one) ? [] : [`http://${one}:${port}`]),
      ]),
    ];
    const local = !named.length && isLoopback(bind);
    this.apart = local || (shopNames.length > 0 && draftHost.startsWith('*.'));
    const ported = (name: string, at: number) => (proxy || /:\d+$/.test(name) ? name : `${name}:${at}`);
    if (this.apart) {
      const [shopName = 'shop.localhost'] = shopNames;
      const suffix = draftHost.startsWith('*.') ? draftHost.slice(1).toLowerCase() : '.localhost';
      this.#shopNames = new Set([shopName, ...shopNames].map(nameOf));
      this.#draftSuffix = nameOf(suffix);
      this.shop = `${scheme}://${ported(shopName, sitePort)}`;
      this.drafts = `${scheme}://*${ported(suffix, sitePort)}`;
    } else {
      const name = nameOf(shopNames[0] ?? named[0] ?? (bind.includes(':') ? `[${bind}]` : bind));
      this.#shopNames = new Set([...shopNames, ...named, ...loopback, name].map(nameOf));
      this.#draftSuffix = '';
      this.shop = `${scheme}://${name}:${sitePort}`;
      this.drafts = `${scheme}://${name}:${draftPort}/draft/*`;
    }
  }

  /** Origin of the workbench as who knows this host by that name knows it; else by the first name that is not this machine's own. */
  workbenchFor(name: string | null): string {
    const { port, proxy } = this.setup;
    const local = (one: URL) => loopback.includes(one.hostname);
    const known = this.workbenchOrigins
      .map((one) => new URL(one))
      .filter((one) => (proxy ? one.protocol === 'https:' : Number(one.port) === port));
    const found = known.find(({ hostname }) => hostname === name) ?? known.find((one) => !local(one));
    return found?.origin ?? `http://127.0.0.1:${port}`;
  }

  /** Base of a draft's addresses, without a slash at its end. */
  draft(slug: string): string {
    return draftBase(this, slug);
  }

  /** Base of a release's addresses, live or not. */
  release(number: number): string {
    return releaseBase(this, number);
  }

  /** What a host names, by the site's port; null: nothing of this server's. */
  siteOf(host: string): Site | null {
    const name = nameOf(host.toLowerCase());
    if (this.#shopNames.has(name)) return { kind: 'shop' };
    if (!this.apart || !name.endsWith(this.#draftSuffix)) return null;
    const label = name.slice(0, -this.#draftSuffix.length);
    const release = /^release--(\d{1,7})$/.exec(label);
    if (release) return { kind: 'release', number: Number(release[1]) };
    const slug = draftOfLabel(label);
    return /^[a-z0-9]+(?:-[a-z0-9]+)*$/.test(slug) ? { kind: 'draft', slug } : null;
  }

  /** Whether an address is one of a draft's or a release's pages here. */
  isOfDrafts({ hostname, host, port, pathname }: URL): boolean {
    const { sitePort, draftPort, proxy } = this.setup;
    if (!this.apart) {
      const known = new URL(this.drafts.replace('*', 'x')).hostname === hostname || this.workbenchHosts.has(hostname);
      return known && Number(port) === draftPort && /^\/(?:draft|release)\//.test(pathname);
    }
    const site = this.siteOf(host);
    return site !== null && site.kind !== 'shop' && (proxy || Number(port) === sitePort);
  }

  /** Whether a host is this machine itself, without a name of the shop's or a draft's. */
  isPlain(host: string): boolean {
    return loopback.includes(nameOf(host.toLowerCase()));
  }

  /** Where an address leads that was once the workbench's: the shop, drafts and releases stood below it. Null: none of those. */
  moved(address: string): string | null {
    const found = /^\/(?:live|draft\/([a-z0-9-]+)|release\/(\d{1,7}))(?=[/?]|$)(.*)$/.exec(address);
    if (!found) return /^\/(?:media|player)\//.test(address) ? this.shop + address : null;
    const [, slug, number, rest = ''] = found;
    const base = slug ? this.draft(slug) : number ? this.release(Number(number)) : this.shop;
    return base + (rest.startsWith('/') ? rest : `/${rest}`);
  }
}

const global = globalThis as { lastAddresses?: Addresses };

/** The addresses of this process's server, known once it has started. */
export const addresses = (): Addresses =>
  (global.lastAddresses ??= new Addresses(setupFrom(process.env, { port: 4170, sitePort: 4171, draftPort: 4172 })));

export function setAddresses(known: Addresses): void {
  global.lastAddresses = known;
}

export function setupFrom(
  env: Record<string, string | undefined>,
  ports: Pick<Setup, 'port' | 'sitePort' | 'draftPort'>,
): Setup {
  return {
    ...ports,
    bind: env.LAST_BIND ?? '127.0.0.1',
    host: env.LAST_HOST ?? '',
    shopHost: env.LAST_SHOP_HOST ?? '',
    draftHost: env.LAST_DRAFT_HOST ?? '',
    proxy: env.LAST_PROXY === '1',
  };
}

import { parse, serialize } from 'cookie';

/** Cookies that Last sets: who needs each, and where a browser may send it. */
export type CookieKind = 'session' | 'known' | 'provider' | 'look' | 'framed-look' | 'cart' | 'framed-cart';

interface Flags {
  name: string;
  sameSite: 'strict' | 'lax' | 'none';
  /** `always`: also where the server is asked without HTTPS, as on this machine; `https`: where it is asked by HTTPS. */
  secure: 'always' | 'https';
  /** Only under the name of the host that set it (RFC 6265bis, 4.1.3.2), where it is secure. */
  hostOnly: boolean;
  /** Apart for each site that has the page in a frame. */
  partitioned: boolean;
}

/** Every cookie is kept from scripts, and holds for the whole site that set it. */
const table: Record<CookieKind, Flags> = {
  /** Of who is signed in to the workbench: sent with requests of its own pages alone. */
  session: { name: 'last_session', sameSite: 'strict', secure: 'https', hostOnly: true, partitioned: false },
  /** Of a browser that someone signed in with: wrong passwords that others try do not slow it down. */
  known: { name: 'last_known', sameSite: 'strict', secure: 'https', hostOnly: true, partitioned: false },
  /** Of a browser on its way to another site to sign in, and back: a link of that site leads here. */
  provider: { name: 'last_provider', sameSite: 'lax', secure: 'https', hostOnly: true, partitioned: false },
  /** Of who may look at a draft, on that draft's host: sent with its own pages, which stand in a page of the workbench. */
  look: { name: 'last_look', sameSite: 'lax', secure: 'https', hostOnly: false, partitioned: false },
  'framed-look': { name: 'last_look', sameSite: 'none', secure: 'always', hostOnly: false, partitioned: true },
  /** Of a visitor's cart: sent when a link of another site leads here, too. */
  cart: { name: 'last_cart', sameSite: 'lax', secure: 'https', hostOnly: false, partitioned: false },
  /** The same of a page in the Bench's frame, which stands in a page of another site. */
  'framed-cart': { name: 'last_cart', sameSite: 'none', secure: 'always', hostOnly: false, partitioned: true },
};

/** What a cookie is called; `secure`: the server is asked by HTTPS. */
export function cookieName(kind: CookieKind, secure: boolean): string {
  const { name, hostOnly } = table[kind];
  return hostOnly && secure ? `__Host-${name}` : name;
}

/** A `Set-Cookie` header (RFC 6265bis): the value is held for so many seconds; 0 removes it. */
export function cookieText(kind: CookieKind, value: string, seconds: number, secure: boolean): string {
  const flags = table[kind];
  return serialize(cookieName(kind, secure), value, {
    path: '/',
    maxAge: seconds,
    httpOnly: true,
    sameSite: flags.sameSite,
    secure: secure || flags.secure === 'always',
    partitioned: flags.partitioned,
  });
}

/** The value of a cookie in the text of a `Cookie` header; null where it has none. */
export const cookieIn = (kind: CookieKind, secure: boolean, header: string | null | undefined): string | null =>
  parse(header ?? '')[cookieName(kind, secure)] ?? null;

import type { Addresses } from './addresses';

/**
 * What an answer carries for the browser's safety, by what it is: one table for every address (the OWASP Secure Headers
 * Project's list). Content types, caching and cookies are the answer's own.
 */
export type AnswerKind =
  /** A screen of the workbench. */
  | 'workbench'
  /** Data and files of the workbench. */
  | 'data'
  /** A page of the live shop, or of a release. */
  | 'page'
  /** A page of a draft, which the workbench shows in a frame. */
  | 'draft'
  /** A served piece, for scripts to fetch. */
  | 'fragment'
  /** A file of a theme or a picture of the catalogue. */
  | 'file'
  /** An SVG picture or a film's player: a document that runs nothing. */
  | 'document';

const everywhere = {
  'X-Content-Type-Options': 'nosniff',
  'X-Permitted-Cross-Domain-Policies': 'none',
  'Origin-Agent-Cluster': '?1',
};

const nothingOfTheDevice =
  'accelerometer=(), bluetooth=(), camera=(), display-capture=(), geolocation=(), gyroscope=(), hid=(), magnetometer=(), microphone=(), midi=(), serial=(), usb=()';

/** A theme's own scripts and styles stand in its pages: what is held is what they may be put into, and what they may not be. */
const themePolicy = (framers: string) => `frame-ancestors ${framers}; base-uri 'self'; object-src 'none'`;

/** The workbench, by all its names; a policy cannot name an IPv6 address. */
const framersOf = ({ workbenchOrigins }: Addresses) => workbenchOrigins.filter((one) => !one.includes('[')).join(' ');

export interface HeaderContext {
  addresses: Addresses;
  /** Of this answer of the workbench's, for its scripts. */
  nonce?: string;
  /** The workbench runs from its sources: scripts may be put together as it runs. */
  development?: boolean;
}

export function safetyHeaders(kind: AnswerKind, context: HeaderContext): Record<string, string> {
  const { addresses } = context;
  const secure: Record<string, string> = addresses.setup.proxy
    ? { 'Strict-Transport-Security': 'max-age=31536000' }
    : {};
  const all: Record<string, string> = { ...everywhere, ...secure };
  switch (kind) {
    case 'workbench':
      return {
        ...all,
        'Content-Security-Policy': workbenchPolicy(context),
        'X-Frame-Options': 'DENY',
        'Referrer-Policy': 'same-origin',
        'Permissions-Policy': `${nothingOfTheDevice}, payment=()`,
        'Cross-Origin-Opener-Policy': 'same-origin',
        'Cross-Origin-Resource-Policy': 'same-origin',
      };
    case 'data':
      return {
        ...all,
        'Content-Security-Policy':
          "default-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'; sandbox",
        'X-Frame-Options': 'DENY',
        'Referrer-Policy': 'no-referrer',
        'Cross-Origin-Opener-Policy': 'same-origin',
        'Cross-Origin-Resource-Policy': 'same-origin',
      };
    case 'page':
      return {
        ...all,
        'Content-Security-Policy': themePolicy("'none'"),
        'X-Frame-Options': 'DENY',
        'Referrer-Policy': 'strict-origin-when-cross-origin',
        'Permissions-Policy': nothingOfTheDevice,
        'Cross-Origin-Opener-Policy': 'same-origin-allow-popups',
      };
    case 'draft':
      return {
        ...all,
        'Content-Security-Policy': themePolicy(framersOf(addresses)),
        'Referrer-Policy': 'same-origin',
        'Permissions-Policy': nothingOfTheDevice,
        'Cross-Origin-Opener-Policy': 'same-origin',
        'X-Robots-Tag': 'noindex',
      };
    case 'fragment':
      // Alone in a window its scripts would run with whatever was given in the address.
      return {
        ...all,
        'Content-Security-Policy': "frame-ancestors 'none'; sandbox",
        'X-Frame-Options': 'DENY',
        'Referrer-Policy': 'same-origin',
        'Cross-Origin-Resource-Policy': 'same-origin',
        'X-Robots-Tag': 'noindex',
      };
    case 'file':
      return {
        ...all,
        'Referrer-Policy': 'strict-origin-when-cross-origin',
        'Cross-Origin-Resource-Policy': 'cross-origin',
      };
    case 'document':
      return {
        ...all,
        'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
        'Referrer-Policy': 'no-referrer',
        'Cross-Origin-Resource-Policy': 'cross-origin',
      };
  }
}

/** The workbench runs its own scripts and no others, asks only its own server, and shows pages of drafts in frames. */
function workbenchPolicy({ addresses, nonce = '', development = false }: HeaderContext): string {
  const frames = new URL(addresses.drafts.replace('*', addresses.apart ? 'draft' : ''));
  const wildcard = addresses.apart ? addresses.drafts : frames.origin;
  return [
    "default-src 'none'",
    `script-src 'self'${nonce ? ` 'nonce-${nonce}'` : ''}${development ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    `img-src 'self' data: blob: ${addresses.shop} ${wildcard}`,
    "font-src 'self' data:",
    `connect-src 'self'${development ? ' ws:' : ''}`,
    "worker-src 'self' blob:",
    // A draft's page that nobody may look at yet is reached by way of the workbench itself.
    `frame-src 'self' ${wildcard}`,
    "manifest-src 'self'",
    "form-action 'self'",
    "base-uri 'none'",
    "object-src 'none'",
    "frame-ancestors 'none'",
  ].join('; ');
}

import { timingSafeEqual } from 'node:crypto';
import { tokenHeader } from '@/contract/addresses';
import type { Addresses } from './addresses';

/** What the gate looks at of a request. Header names in lower case. */
export interface Knock {
  method: string;
  url: string;
  headers: Record<string, string | string[] | undefined>;
  /** How often the request names a host. */
  hosts: number;
}

export interface GateRefusal {
  status: number;
  message: string;
}

/** Longest query of an address, in characters. */
const maxQuery = 2048;

const refusal = (status: number, message: string): GateRefusal => ({ status, message });
const reads = (method: string): boolean => method === 'GET' || method === 'HEAD';

/** What holds for every request, whatever it is for. */
function common({ method, url, headers, hosts }: Knock, { setup }: Addresses): GateRefusal | null {
  if (hosts !== 1) return refusal(400, 'A request names one host.');
  if (!setup.proxy && Object.keys(headers).some((name) => name === 'forwarded' || name.startsWith('x-forwarded-')))
    return refusal(
      400,
      'This request came through a front server. Start Last with LAST_PROXY=1 if one stands before it.',
    );
  const query = url.indexOf('?');
  if (query >= 0 && url.length - query > maxQuery)
    return refusal(414, `The address has a query of over ${maxQuery} characters.`);
  if (!reads(method) && !['POST', 'PUT', 'PATCH', 'DELETE'].includes(method))
    return refusal(405, `${method} is not answered here.`);
  return null;
}

/**
 * Whether a request may come to the workbench: a refusal, or null. Only requests for its own host names are answered (a name
 * of someone else's that points here could read everything); what another site's page sends is never answered with data, and
 * writing needs the workbench's own origin and the token that only its pages have.
 */
export function workbenchGate(
  knock: Knock,
  addresses: Addresses,
  /** Null: not asked for, since who signs in has no page that carries it yet. */
  token: string | null,
): GateRefusal | null {
  const { method, url, headers } = knock;
  const wrong = common(knock, addresses);
  if (wrong) return wrong;
  const host = String(headers.host ?? '').toLowerCase();
  if (!addresses.workbenchHosts.has(host))
    return refusal(421, `This server does not answer for “${host || 'no host'}”. Name it in LAST_HOST if it should.`);
  const site = headers['sec-fetch-site'];
  const foreign = site !== undefined && site !== 'same-origin' && site !== 'none';
  if (foreign && (!reads(method) || url.startsWith('/api/')))
    return refusal(403, 'A page of another site may neither read nor change anything here.');
  if (reads(method)) return null;
  const origin = String(headers.origin ?? '');
  if (!addresses.workbenchOrigins.includes(origin) || hostOf(origin) !== host)
    return refusal(403, 'Only the workbench’s own pages may change anything here.');
  if (token !== null && !sameToken(String(headers[tokenHeader] ?? ''), token))
    return refusal(403, 'This page is from another run of Last: load it again. What you typed is kept.');
  return null;
}

/** Whether a request that brings a token of its own may come to the workbench: no page of another site can send one. */
export function bearerGate(knock: Knock, addresses: Addresses): GateRefusal | null {
  const wrong = common(knock, addresses);
  if (wrong) return wrong;
  const host = String(knock.headers.host ?? '').toLowerCase();
  if (!addresses.workbenchHosts.has(host))
    return refusal(421, `This server does not answer for “${host || 'no host'}”. Name it in LAST_HOST if it should.`);
  if (knock.headers['sec-fetch-site'] !== undefined) return refusal(403, 'A token is for programs: a page signs in.');
  return null;
}

/** Whether a request may come to the shop, a draft or a release. Forms are taken from their own pages only. */
export function siteGate(knock: Knock, addresses: Addresses): GateRefusal | null {
  const { method, headers } = knock;
  const wrong = common(knock, addresses);
  if (wrong) return wrong;
  // A theme's script that stayed in browsers would outlive the theme.
  if (headers['service-worker'] !== undefined) return refusal(403, 'Pages of the shop have no service worker.');
  if (reads(method)) return null;
  if (method !== 'POST') return refusal(405, 'Pages of the shop are read, and forms are sent to /cart.');
  const host = String(headers.host ?? '').toLowerCase();
  const { origin, 'sec-fetch-site': site } = headers;
  const foreign =
    (origin !== undefined && hostOf(String(origin)) !== host) ||
    (site !== undefined && site !== 'same-origin' && site !== 'none');
  return foreign ? refusal(403, 'A page of another site may not change anything here.') : null;
}

function hostOf(origin: string): string | null {
  return URL.canParse(origin) ? new URL(origin).host : null;
}

function sameToken(given: string, token: string): boolean {
  const [a, b] = [Buffer.from(given), Buffer.from(token)];
  return a.length === b.length && timingSafeEqual(a, b);
}

/**
 * An address whose path can be decoded: one that is written wrongly (`/product/%E0%A4%A`) is taken letter by letter, and leads
 * to the page for what is not there instead of failing before any page is made.
 */
export function soundAddress(address: string): string {
  const at = address.indexOf('?');
  const path = at < 0 ? address : address.slice(0, at);
  try {
    decodeURIComponent(path);
    return address;
  } catch {
    return path.replaceAll('%', '%25') + (at < 0 ? '' : address.slice(at));
  }
}

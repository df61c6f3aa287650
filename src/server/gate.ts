/** What the gate looks at of a request. Header names in lower case. */
export interface Knock {
  method: string;
  headers: Record<string, string | string[] | undefined>;
}

/**
 * Whether a request may come in: a refusal with its status and a sentence, or null. Only requests for this server's own
 * host name are answered (a name of someone else's that points here could read everything), and nothing changes on a
 * request that another site's page sent.
 */
export function gate(
  { method, headers }: Knock,
  hosts: ReadonlySet<string>,
): { status: number; message: string } | null {
  const host = String(headers.host ?? '').toLowerCase();
  if (!hosts.has(host)) {
    return {
      status: 421,
      message: `This server does not answer for “${host || 'no host'}”. Name it in LAST_HOST if it should.`,
    };
  }
  if (method === 'GET' || method === 'HEAD' || method === 'OPTIONS') return null;
  const origin = headers.origin;
  const site = headers['sec-fetch-site'];
  const foreign =
    (origin !== undefined && !sameHost(String(origin), host)) ||
    (site !== undefined && site !== 'same-origin' && site !== 'none');
  return foreign ? { status: 403, message: 'A page of another site may not change anything here.' } : null;
}

function sameHost(origin: string, host: string): boolean {
  try {
    return new URL(origin).host === host;
  } catch {
    return false;
  }
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

/** The host names that a server on this port answers for. `named` are further ones, with or without a port. */
export function ownHosts(port: number, named: string[]): Set<string> {
  const hosts = new Set<string>();
  for (const name of [
    '127.0.0.1',
    'localhost',
    '[::1]',
    ...named.map((one) => one.trim().toLowerCase()).filter(Boolean),
  ]) {
    hosts.add(name);
    hosts.add(`${name}:${port}`);
  }
  return hosts;
}

/** Header by which the server says that a request came in by the preview's port; taken off whatever comes from outside. */
export const previewHeader = 'x-last-preview';

const shown = /^\/(?:draft\/|media\/|player\/|bench-frame\.js$)/;

/**
 * What the preview's port answers: pages of drafts and what they are made of, so that a theme's script finds nothing there
 * that it could read or change but the shop's own pages. A refusal, or null.
 */
export function previewGate(method: string, url: string): { status: number; message: string } | null {
  const path = (url.split('?')[0] ?? '').replace(/\/{2,}/g, '/');
  if (shown.test(path) && !/(?:^|\/)\.\.?(?:\/|$)|%2e|%2f|\\/i.test(path) && (method === 'GET' || method === 'HEAD'))
    return null;
  if (method === 'POST' && /^\/draft\/[^/]+\/(?:[^/]+\/)?cart$/.test(path)) return null;
  return { status: 404, message: 'Only pages of a draft are shown here. The workbench has an address of its own.' };
}

/** Port of the preview, when the request came in by it; else null. */
export function previewPort(request: Request): number | null {
  const port = Number(request.headers.get(previewHeader) ?? 0);
  return port > 0 ? port : null;
}

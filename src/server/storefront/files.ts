import { type Lane } from '@/server/jobs';
import { inThread, readSize, standIn, type Shop } from '@/server/shop';
import { getMedia, type StateRow } from '@/store';
import { addresses, contentType, etagOf, matches, safetyHeaders, type AnswerKind } from '@/server/http';
import { storefrontJobs } from './jobs';
import { fault } from '@/server/log';

/** Customers wait for live pages only. */
export const laneOf = (state: StateRow): Lane => (state.kind === 'release' ? 'live' : 'preview');

/** A sentence in the place of what was asked for. */
export function textAnswer(status: number, text: string, more: Record<string, string> = {}): Response {
  const headers = {
    ...safetyHeaders('file', { addresses: addresses() }),
    'Content-Type': 'text/plain; charset=utf-8',
    'Cache-Control': 'no-store',
    ...more,
  };
  return new Response(text, { status, headers });
}

/** Answers a request for a file of a state's theme. */
export function serveAsset(shop: Shop, state: StateRow, request: Request, path: string): Response | Promise<Response> {
  const file = shop.theme(state).theme.file(path.slice(1));
  const version = new URL(request.url).searchParams.get('v');
  if (path === '/assets/icons.svg' && !file) return serveSprite(shop, state, request, version);
  if (path === '/assets/fonts.css' && !file) {
    const { text, version: now } = shop.theme(state).theme.fonts ?? { text: '', version: 'none' };
    return fileAnswer(Buffer.from(text), `fonts-${now}`, contentType(path), version === now);
  }
  const unsaved = version !== null && !file?.hash.startsWith(version) ? shop.unsavedBytes(version) : null;
  if (unsaved) return fileAnswer(unsaved.bytes, unsaved.hash, contentType(path), true);
  // A page that was made of an earlier state goes on with the files of that state.
  const earlier =
    version !== null && !file?.hash.startsWith(version) ? shop.themes.bytesOfVersion(path.slice(1), version) : null;
  if (earlier) return fileAnswer(earlier.bytes, earlier.hash, contentType(path), true);
  const bytes = file && shop.themes.bytes(file.hash);
  if (!file || !bytes) return textAnswer(404, `There is no file ${path} in this theme.`);
  return fileAnswer(bytes, file.hash, contentType(path), version !== null && file.hash.startsWith(version));
}

/** The theme's icons as one file, put together in a thread: an icon may be large. */
async function serveSprite(shop: Shop, state: StateRow, request: Request, version: string | null): Promise<Response> {
  const { theme } = shop.theme(state);
  const now = theme.iconsVersion;
  const text = shop.sprites.get(now) ?? (await inThread(shop, laneOf(state), storefrontJobs.sprite, state));
  shop.sprites.set(now, text);
  // A page of an earlier state draws from the icons that it was made with, as long as they are known.
  const wanted = version !== null && version !== now ? (shop.sprites.get(version) ?? null) : null;
  const bytes = Buffer.from(wanted ?? text);
  return fileAnswer(
    bytes,
    `icons-${wanted === null ? now : version}`,
    contentType('icons.svg'),
    version === now || wanted !== null,
  );
}

/** Answers a request for a picture of the catalogue, in the size that its address asks for. */
export async function serveMedia(shop: Shop, request: Request, path: string): Promise<Response> {
  const file = getMedia(shop.sql, path);
  if (!file) return noPicture(404);
  const { pathname, search, searchParams } = new URL(request.url);
  const version = searchParams.get('v');
  const forGood = version !== null && file.hash.startsWith(version);
  // Sizes that no page asks for are not made: such a request gets the original picture.
  const sizes = /^image\/(?:png|jpeg|webp|avif)$/.test(file.type) && shop.signer.isSigned(pathname + search);
  const size = sizes ? readSize(searchParams) : null;
  if (!size) return fileAnswer(file.bytes, file.hash, file.type, forGood);
  const webp = (request.headers.get('accept') ?? '').includes('image/webp');
  const named = `${file.hash}-${JSON.stringify(size)}${webp ? '-webp' : ''}`;
  let bytes;
  try {
    bytes = await shop.pictures.sized(file.bytes, file.hash, size, webp);
  } catch (error) {
    fault(`The picture ${path} cannot be shown in a size: ${(error as Error).message}`);
    return noPicture(500);
  }
  const response = fileAnswer(bytes, etagOf(named).slice(1, -1), webp ? 'image/webp' : file.type, forGood);
  response.headers.set('Vary', 'Accept');
  return response;
}

/** What is drawn where a picture should be: one that is not there (404), or that cannot be opened (500). */
function noPicture(status: 404 | 500): Response {
  const headers = {
    ...safetyHeaders('document', { addresses: addresses() }),
    'Content-Type': contentType('stand-in.svg'),
    'Cache-Control': 'no-cache',
  };
  return new Response(standIn, { status, headers });
}

/** A file of a theme by its content, for the workbench: an attachment, so that nothing in it runs or is shown as a page there. */
export function serveContent(request: Request, path: string, hash: string, bytes: Buffer): Response {
  const response = fileAnswer(bytes, hash, contentType(path), true);
  for (const [name, value] of Object.entries(safetyHeaders('data', { addresses: addresses() })))
    response.headers.set(name, value);
  const type = response.headers.get('Content-Type') ?? '';
  if (!/^(?:image|font)\//.test(type)) response.headers.set('Content-Type', 'application/octet-stream');
  response.headers.set('Content-Disposition', 'attachment');
  const has = matches(request.headers.get('if-none-match'), `"${hash}"`);
  return has ? new Response(null, { status: 304, headers: response.headers }) : response;
}

function fileAnswer(bytes: Buffer, hash: string, type: string, forGood: boolean): Response {
  const etag = `"${hash}"`;
  const kind: AnswerKind = type.startsWith('image/svg+xml') ? 'document' : 'file';
  const headers = new Headers({
    ...safetyHeaders(kind, { addresses: addresses() }),
    'Content-Type': type,
    'Cache-Control': forGood ? 'public, max-age=31536000, immutable' : 'no-cache',
    ETag: etag,
  });
  return new Response(new Uint8Array(bytes), { headers });
}

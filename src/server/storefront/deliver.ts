import type { IncomingMessage, ServerResponse } from 'node:http';
import { LRUCache } from 'lru-cache';
import Negotiator from 'negotiator';
import parseRange from 'range-parser';
import { matches } from '@/server/http';
import { type Encoding, encodings, shorter } from './shorter';

/** An answer before it is known how the one who asks takes it. */
export interface Answer {
  status: number;
  /** Their names in small letters. */
  headers: Record<string, string | string[]>;
  bytes: Uint8Array;
  /** Of its bytes as they are; null: nothing is asked by it. */
  etag: string | null;
}

/** A text shorter than this gains nothing; in bytes. */
const worthwhile = 1000;
/** Texts as they were made shorter, by ETag; in bytes. */
const maxKept = 32_000_000;
const kept = new LRUCache<string, Buffer>({
  maxSize: maxKept,
  sizeCalculation: (bytes, key) => bytes.length + key.length,
});
/** What a text is sent with while someone waits. */
const quality: Record<Encoding, number> = { br: 5, gzip: 6 };

const isText = (type: string): boolean => /^(?:text\/|image\/svg\+xml|application\/(?:xml|json|manifest))/.test(type);

/** The ETag of an answer in an encoding: each has its own (RFC 9110, 8.8.3.3). */
const tagOf = (etag: string, encoding: Encoding): string => `${etag.slice(0, -1)};${encoding}"`;

/** What browsers accept: they are few, and each says the same each time. */
const accepted = new LRUCache<string, { encoding: Encoding | null }>({ max: 200 });

/** The encoding that a request takes best; null: as it is. */
function encodingFor(accepts: string | undefined): Encoding | null {
  if (!accepts || !/br|gzip|\*/.test(accepts)) return null;
  let known = accepted.get(accepts);
  if (!known) accepted.set(accepts, (known = { encoding: bestOf(accepts) }));
  return known.encoding;
}

function bestOf(accepts: string): Encoding | null {
  const ask = new Negotiator({ headers: { 'accept-encoding': accepts } }) as unknown as {
    encoding(available: string[], options: { preferred: readonly string[] }): string | undefined;
  };
  const found = ask.encoding([...encodings, 'identity'], { preferred: encodings });
  return encodings.find((one) => one === found) ?? null;
}

/** A text in an encoding, made once for each ETag. */
async function encoded(bytes: Uint8Array, tag: string, encoding: Encoding): Promise<Buffer> {
  const made = await shorter[encoding](bytes, quality[encoding]);
  kept.set(tag, made);
  return made;
}

/**
 * Sends an answer as the one who asks takes it: that it has not changed, a part of it, a text made shorter (RFC 9110, 8.4, 13 and 14). Texts that change
 * with each visitor have no ETag, and are sent as they are.
 */
export function deliver(request: IncomingMessage, response: ServerResponse, answer: Answer): void | Promise<void> {
  const { status, headers, bytes, etag } = answer;
  const asked = request.headers;
  if (status !== 200 || etag === null) return finish(request, response, status, headers, bytes);
  const had = asked['if-none-match'];
  const text = isText(String(headers['content-type']));
  if (text && bytes.length >= worthwhile) {
    const { vary } = headers;
    const all = { ...headers, vary: vary ? `${String(vary)}, Accept-Encoding` : 'Accept-Encoding' };
    const encoding = encodingFor(asked['accept-encoding']);
    const tag = encoding ? tagOf(etag, encoding) : etag;
    if (had !== undefined && matches(had, tag)) return unchanged(response, { ...all, etag: tag });
    if (!encoding) return finish(request, response, 200, { ...all, etag }, bytes);
    const send = (shorter: Buffer) =>
      finish(request, response, 200, { ...all, etag: tag, 'content-encoding': encoding }, shorter);
    // What was made before is sent at once.
    const made = kept.get(tag);
    return made ? send(made) : encoded(bytes, tag, encoding).then(send);
  }
  if (had !== undefined && matches(had, etag)) return unchanged(response, { ...headers, etag });
  if (text) return finish(request, response, 200, { ...headers, etag }, bytes);
  const ranged = { ...headers, etag, 'accept-ranges': 'bytes' };
  // Of a file that has changed meanwhile a part is no use.
  const isSame = asked['if-range'] === undefined || asked['if-range'] === etag;
  const part =
    asked.range !== undefined && request.method === 'GET' && isSame ? parseRange(bytes.length, asked.range) : -2;
  if (part === -1)
    return finish(request, response, 416, { ...ranged, 'content-range': `bytes */${bytes.length}` }, nothing);
  const [first] = part === -2 ? [] : part;
  // Several parts at once, which nothing that shows films asks for, are answered with the whole.
  if (!first || part === -2 || part.length > 1 || part.type !== 'bytes')
    return finish(request, response, 200, ranged, bytes);
  const range = `bytes ${first.start}-${first.end}/${bytes.length}`;
  const piece = bytes.subarray(first.start, first.end + 1);
  return finish(request, response, 206, { ...ranged, 'content-range': range }, piece);
}

const nothing = new Uint8Array();

function unchanged(response: ServerResponse, headers: Answer['headers']): void {
  const { 'content-type': _, ...rest } = headers;
  response.writeHead(304, rest).end();
}

function finish(
  request: IncomingMessage,
  response: ServerResponse,
  status: number,
  headers: Answer['headers'],
  bytes: Uint8Array,
): void {
  if (status !== 304) headers = { ...headers, 'content-length': String(bytes.length) };
  // What is left of a body that was not read would be taken for the next request.
  const { 'content-length': length, 'transfer-encoding': chunked } = request.headers;
  if ((length ?? chunked) !== undefined && !request.complete) headers = { ...headers, connection: 'close' };
  response.writeHead(status, headers);
  response.end(request.method === 'HEAD' || status === 304 ? undefined : bytes);
}

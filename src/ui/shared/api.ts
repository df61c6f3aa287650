import { tokenHeader } from '@/contract/addresses';
import { addressOf, type AddressOf, type AnswerOf, type BodyOf, type Endpoint } from '@/contract/endpoint';
import { authorHeader, type Refusal } from '@/contract/shared';
import { authorName } from './author';

/** A request that the server refused, or that did not reach it. `status` 0: no answer. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly body: Refusal,
  ) {
    super(body.message);
  }
}

/** Calls the server; a refusal or a lost connection becomes an ApiError with a sentence for people. */
export async function call<const One extends Endpoint>(
  endpoint: One,
  given: AddressOf<One>,
  ...[body]: BodyOf<One>
): Promise<AnswerOf<One>> {
  const response = await send(endpoint, addressOf(endpoint, given), body);
  const text = await response.text();
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw unreadable(response.status);
  }
  if (!response.ok) throw new ApiError(response.status, read as Refusal);
  return read as AnswerOf<One>;
}

/** Calls for long work and hears what is found, a line at a time, until it is done or `signal` says stop. */
export async function callForLines<const One extends Endpoint>(
  endpoint: One,
  given: AddressOf<One>,
  body: BodyOf<One>[0],
  onLine: (line: AnswerOf<One>) => void,
  signal: AbortSignal,
): Promise<void> {
  const response = await send(endpoint, addressOf(endpoint, given), body, signal);
  if (!response.ok || !response.body) {
    const refused = (await response.json().catch(() => null)) as Refusal | null;
    throw refused ? new ApiError(response.status, refused) : unreadable(response.status);
  }
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  let last: unknown = null;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    rest += value;
    const lines = rest.split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) {
      const read = JSON.parse(line) as AnswerOf<One> | { failed: string };
      if (typeof read === 'object' && read !== null && 'failed' in read)
        throw new ApiError(500, { code: 'lines', message: read.failed });
      onLine(read as AnswerOf<One>);
      last = read;
    }
  }
  // What says of itself that more was to come was cut off: that nothing more is there would not be so.
  const cut = typeof last === 'object' && last !== null && 'done' in last && last.done === false;
  if (last === null || cut)
    throw new ApiError(500, { code: 'lines', message: 'This ended before it was done. Ask for it once more.' });
}

async function send({ method }: Endpoint, address: string, body: unknown, signal?: AbortSignal): Promise<Response> {
  // ZIPs and forms are sent as they are.
  const raw = body instanceof Blob || body instanceof FormData;
  try {
    return await fetch(address, {
      method,
      headers: {
        ...authorHeaders(),
        ...(method === 'GET' ? {} : tokenHeaders()),
        ...(body === undefined || raw ? {} : { 'Content-Type': 'application/json' }),
      },
      ...(body === undefined ? {} : { body: raw ? body : JSON.stringify(body) }),
      ...(signal ? { signal } : {}),
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new ApiError(0, {
      code: 'offline',
      message: 'The server does not answer. Is it running? Try again when it is.',
    });
  }
}

const unreadable = (status: number): ApiError =>
  new ApiError(status, { code: 'answer', message: `The server’s answer cannot be read (status ${status}).` });

/** What writing needs: only the workbench's own pages have it. */
const tokenHeaders = (): Record<string, string> => ({
  [tokenHeader]: document.querySelector<HTMLMetaElement>('meta[name=last-token]')?.content ?? '',
});

/** Who asks, as they call themselves. */
function authorHeaders(): Record<string, string> {
  const name = authorName();
  return name ? { [authorHeader]: encodeURIComponent(name) } : {};
}

export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

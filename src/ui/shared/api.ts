import { type Refusal, authorHeader } from '@/contract/shared';
import { tokenHeader } from '@/contract/addresses';
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

/** Files and forms are sent as they are. */
const isRaw = (body: unknown): body is Blob | FormData => body instanceof Blob || body instanceof FormData;

/** What writing needs: only the workbench's own pages have it. */
export const tokenHeaders = (): Record<string, string> => ({
  [tokenHeader]: document.querySelector<HTMLMetaElement>('meta[name=last-token]')?.content ?? '',
});

/** Who asks, as they call themselves. */
function authorHeaders(): Record<string, string> {
  const name = authorName();
  return name ? { [authorHeader]: encodeURIComponent(name) } : {};
}

/** Asks the server; a refusal or a lost connection becomes an ApiError with a sentence for people. */
export async function api<T>(method: 'GET' | 'POST' | 'PUT' | 'DELETE', path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      headers: {
        ...authorHeaders(),
        ...(method === 'GET' ? {} : tokenHeaders()),
        ...(body === undefined || isRaw(body) ? {} : { 'Content-Type': 'application/json' }),
      },
      ...(body === undefined ? {} : { body: isRaw(body) ? body : JSON.stringify(body) }),
    });
  } catch {
    throw new ApiError(0, {
      code: 'offline',
      message: 'The server does not answer. Is it running? Try again when it is.',
    });
  }
  const text = await response.text();
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw new ApiError(response.status, {
      code: 'answer',
      message: `The server’s answer cannot be read (status ${response.status}).`,
    });
  }
  if (!response.ok) throw new ApiError(response.status, read as Refusal);
  return read as T;
}

export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

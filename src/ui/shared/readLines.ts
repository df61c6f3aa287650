import { ApiError, tokenHeaders } from './api';

/** Asks for long work and hears what is found, a line of JSON at a time, until it is done or `signal` says stop. */
export async function readLines<T>(
  path: string,
  body: unknown,
  onLine: (line: T) => void,
  signal: AbortSignal,
): Promise<void> {
  const response = await fetch(path, {
    ...(body === undefined
      ? {}
      : {
          method: 'POST',
          body: JSON.stringify(body),
          headers: { ...tokenHeaders(), 'Content-Type': 'application/json' },
        }),
    signal,
  });
  if (!response.ok || !response.body) {
    const refusal = (await response.json().catch(() => null)) as { message?: string } | null;
    throw new ApiError(response.status, { code: 'lines', message: refusal?.message ?? 'The server refused this.' });
  }
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    rest += value;
    const lines = rest.split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) {
      const read = JSON.parse(line) as T | { failed: string };
      if (typeof read === 'object' && read !== null && 'failed' in read)
        throw new ApiError(500, { code: 'lines', message: read.failed });
      onLine(read as T);
    }
  }
}

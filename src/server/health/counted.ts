import type { RequestListener } from 'node:http';
import { idOf, logAnswer, plainPath } from '@/server/log';

/** Counts answers, by labels; times in seconds. */
export interface Counting {
  observe(labels: { part: string; status: string }, seconds: number): void;
}

/** The same listener, its answers counted, and noted where there is a log. `pathOf`: what is noted of an address. */
export function counted(
  part: string,
  answers: Counting | null,
  listener: RequestListener,
  pathOf = plainPath,
): RequestListener {
  const log = logAnswer();
  if (!answers && !log) return listener;
  return (request, response) => {
    const began = performance.now();
    const { method = 'GET', url = '/' } = request;
    const id = log ? idOf(request) : '';
    // What caches may keep is the same for all who ask.
    if (log && (part === 'workbench' || method === 'POST')) response.setHeader('X-Request-Id', id);
    response.once('close', () => {
      const ms = performance.now() - began;
      const { statusCode, writableFinished } = response;
      answers?.observe(
        { part, status: writableFinished ? `${Math.floor(statusCode / 100)}xx` : 'broken off' },
        ms / 1000,
      );
      if (!log) return;
      const about = { id, part, method, path: pathOf(url), status: statusCode, ms: Math.round(ms * 10) / 10 };
      log(writableFinished ? about : { ...about, broken: true });
    });
    listener(request, response);
  };
}

import type { RequestListener } from 'node:http';
import { idOf, logAnswer, plainPath } from '@/server/log';

/** Counts answers of a part of Last, by their status; times in seconds. */
export interface Counting {
  of(part: string, status: string): { add(seconds: number): void };
}

/** Statuses by their first digit. */
const classes = ['', '1xx', '2xx', '3xx', '4xx', '5xx'];

/** The same listener, its answers counted, and noted where there is a log. `pathOf`: what is noted of an address. */
export function counted(
  part: string,
  answers: Counting | null,
  listener: RequestListener,
  pathOf = plainPath,
): RequestListener {
  const log = logAnswer();
  if (!answers && !log) return listener;
  const times = new Map<string, ReturnType<Counting['of']>>();
  const timesOf = (status: string) => {
    let of = times.get(status);
    if (!of && answers) times.set(status, (of = answers.of(part, status)));
    return of;
  };
  return (request, response) => {
    const began = performance.now();
    const { method = 'GET', url = '/' } = request;
    const id = log ? idOf(request) : '';
    // What caches may keep is the same for all who ask.
    if (log && (part === 'workbench' || method === 'POST')) response.setHeader('X-Request-Id', id);
    const note = (isWhole: boolean): void => {
      const ms = performance.now() - began;
      const status = response.statusCode;
      timesOf(isWhole ? (classes[Math.floor(status / 100)] ?? '') : 'broken off')?.add(ms / 1000);
      log?.({ at: Date.now(), id, part, method, path: pathOf(url), status, ms, isWhole });
    };
    listener(request, response);
    // A page that is kept is answered by then: hearing of its end would take longer than what is noted of it.
    if (response.writableEnded) note(true);
    else response.once('close', () => note(response.writableFinished));
  };
}

import type { RequestListener } from 'node:http';
import { answerHealth, isHealth } from './health';

/** What is asked by who watches Last, on a port of its own: figures, and what is wrong in sentences. */
export function watchListener(
  metrics: () => Promise<{ type: string; text: string }>,
  faults: () => string[],
): RequestListener {
  return (request, response) => {
    void (async () => {
      const path = (request.url ?? '/').split('?')[0] ?? '/';
      const send = (status: number, type: string, text: string) =>
        response.writeHead(status, { 'Content-Type': type, 'Cache-Control': 'no-store' }).end(text);
      if (request.method !== 'GET' && request.method !== 'HEAD')
        return send(405, 'text/plain', 'Only GET is answered.\n');
      if (path === '/healthz') return answerHealth(response, path, faults);
      if (isHealth(path)) {
        const found = faults();
        return send(
          found.length ? 503 : 200,
          'application/json',
          `${JSON.stringify({ ready: !found.length, faults: found })}\n`,
        );
      }
      if (path !== '/metrics') return send(404, 'text/plain', 'Here are /metrics, /healthz and /readyz.\n');
      try {
        const { type, text } = await metrics();
        send(200, type, text);
      } catch (error) {
        send(500, 'text/plain', `${(error as Error).message}\n`);
      }
    })();
  };
}

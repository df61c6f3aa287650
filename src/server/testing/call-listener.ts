import type { IncomingMessage, ServerResponse } from 'node:http';
import { answerCall } from '@/server/api';

/** For tests only: answers the workbench's calls by HTTP, without gate or door. */
export function callListener(request: IncomingMessage, response: ServerResponse): void {
  void (async () => {
    const chunks: Buffer[] = [];
    for await (const chunk of request) chunks.push(chunk as Buffer);
    const body = chunks.length ? { body: Buffer.concat(chunks) } : {};
    const headers = request.headers as Record<string, string>;
    const answer = await answerCall(
      new Request(`http://127.0.0.1${request.url}`, { method: request.method ?? 'GET', headers, ...body }),
    );
    response.writeHead(answer.status, Object.fromEntries(answer.headers));
    response.end(Buffer.from(await answer.arrayBuffer()));
  })();
}

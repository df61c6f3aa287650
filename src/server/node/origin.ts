import { Agent, type IncomingMessage, request as ask, type ServerResponse } from 'node:http';
import { Agent as SecureAgent, request as askSecurely } from 'node:https';
import { tokenIn } from '@/server/storefront';

/** Headers that are of one connection alone (RFC 9110, 7.6.1). */
const ofConnection = new Set([
  ...['connection', 'keep-alive', 'proxy-authenticate', 'proxy-authorization', 'proxy-connection', 'te', 'trailer'],
  ...['transfer-encoding', 'upgrade'],
]);
/** An answer begins within so long, in milliseconds. */
const answerMs = 10_000;

/** The headers of a message, as they stood, without those of its connection. */
function passedOn({ rawHeaders, headers }: IncomingMessage): string[] {
  const named = new Set(
    String(headers.connection ?? '')
      .split(',')
      .map((one) => one.trim().toLowerCase()),
  );
  const passed: string[] = [];
  for (let at = 0; at < rawHeaders.length; at += 2) {
    const name = rawHeaders[at] as string;
    if (!ofConnection.has(name.toLowerCase()) && !named.has(name.toLowerCase()))
      passed.push(name, rawHeaders[at + 1] as string);
  }
  return passed;
}

/**
 * The shop's address at its workbench, where carts and orders of several nodes are kept: whoever has a cart, or sends a form, is answered from there.
 */
export class Origin {
  readonly #url: URL;
  readonly #agent: Agent;

  /** @throws RangeError when the text is no address of a server */
  constructor(text: string) {
    const url = URL.canParse(text) ? new URL(text) : null;
    if (!url || !/^https?:$/.test(url.protocol) || url.pathname !== '/' || url.search)
      throw new RangeError(`“${text}” is no address of a workbench’s shop: it is like http://10.0.0.2:4171.`);
    this.#url = url;
    this.#agent = new (url.protocol === 'https:' ? SecureAgent : Agent)({ keepAlive: true, maxSockets: 64 });
  }

  /** Whether a request is to be answered from there. */
  takes({ method, headers }: IncomingMessage): boolean {
    return (method !== 'GET' && method !== 'HEAD') || tokenIn(headers.cookie) !== null;
  }

  /** Has a request answered from there. False: nothing answers there, and nothing was sent to who asks. */
  forward(request: IncomingMessage, response: ServerResponse): Promise<boolean> {
    return new Promise((resolve) => {
      const { protocol, hostname, port } = this.#url;
      const sent = (protocol === 'https:' ? askSecurely : ask)({
        ...{ hostname: hostname.replace(/^\[|\]$/g, ''), port, path: request.url, method: request.method },
        ...{ headers: passedOn(request), agent: this.#agent, setHost: false },
      });
      const timer = setTimeout(() => sent.destroy(new Error('no answer came')), answerMs);
      sent.on('response', (answer) => {
        clearTimeout(timer);
        response.writeHead(answer.statusCode ?? 502, passedOn(answer));
        answer.pipe(response);
        answer.on('error', () => response.destroy());
        response.on('close', () => answer.destroy());
        resolve(true);
      });
      sent.on('error', () => {
        clearTimeout(timer);
        if (response.headersSent) response.destroy();
        else resolve(false);
      });
      request.pipe(sent);
    });
  }

  close(): void {
    this.#agent.destroy();
  }
}

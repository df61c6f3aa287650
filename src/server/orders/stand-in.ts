import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Told } from './tell';
import { verified } from './verify';

/** A message about an order is a few kilobytes; what is longer than this is not read, in bytes. */
const maxBytes = 1_000_000;

export interface StandInSetup {
  secret: string;
  /** 0: any that is free. */
  port: number;
  /** The address that orders are sent to, where a front server stands between; else its own. */
  url?: string;
  /** So many messages are refused first, with 503. */
  refuse?: number;
  /** Hears each event once, however often it comes. */
  hear?: (told: Told) => void;
  /** Hears what is not believed, and repeats. */
  say?: (line: string) => void;
}

/** A stand-in for the shop's own system: takes messages about orders that are signed with the secret, each once by its id. */
export class StandIn {
  readonly heard = new Map<string, Told>();
  /** How often each id came and was believed. */
  readonly times = new Map<string, number>();
  refused = 0;

  private constructor(
    readonly server: Server,
    readonly port: number,
  ) {}

  static async open({
    secret,
    port,
    refuse = 0,
    hear = () => {},
    say = () => {},
    ...setup
  }: StandInSetup): Promise<StandIn> {
    const server = createServer();
    await new Promise<void>((resolve, reject) =>
      server.once('error', reject).listen(port, '127.0.0.1', () => resolve()),
    );
    const standIn = new StandIn(server, (server.address() as AddressInfo).port);
    const url = setup.url ?? standIn.url;
    server.on('request', (request, response) => {
      const parts: Buffer[] = [];
      let size = 0;
      request.on('data', (part: Buffer) => {
        size += part.length;
        if (size > maxBytes) request.destroy();
        else parts.push(part);
      });
      request.on('end', () => {
        void (async () => {
          const answer = (status: number) => response.writeHead(status).end();
          const body = Buffer.concat(parts).toString();
          const headers = Object.fromEntries(
            Object.entries(request.headers).map(([name, value]) => [name, value ?? '']),
          );
          if (!(await verified({ method: request.method ?? '', url, headers, body }, secret))) {
            say('Something came that is not signed with the secret.');
            return answer(401);
          }
          if (standIn.refused < refuse) {
            standIn.refused++;
            return answer(503);
          }
          const told = JSON.parse(body) as Told;
          standIn.times.set(told.id, (standIn.times.get(told.id) ?? 0) + 1);
          if (standIn.heard.has(told.id)) say(`${told.id} came again.`);
          else {
            standIn.heard.set(told.id, told);
            hear(told);
          }
          answer(204);
        })();
      });
    });
    return standIn;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}/orders`;
  }

  close(): void {
    this.server.closeAllConnections();
    this.server.close();
  }
}

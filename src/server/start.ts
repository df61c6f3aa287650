import { existsSync } from 'node:fs';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import next from 'next';
import { DataFolderError, dataFolder, openDatabase } from '@/store/database';
import { createConnection } from 'node:net';
import { gate, ownHosts, previewGate, previewHeader, soundAddress } from './gate';

/**
 * Starts the workbench: `PORT` (4170), on `LAST_BIND` (127.0.0.1), for the names in `LAST_HOST` besides its own. The pages
 * that the Bench shows have a port of their own, `LAST_PREVIEW_PORT` (the next one that is free), and so an origin of their own.
 */
const port = Number(process.env.PORT ?? 4170);
const bind = process.env.LAST_BIND ?? '127.0.0.1';

function stop(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(1);
}

if (!Number.isInteger(port) || port < 1 || port > 65535)
  stop(`PORT is “${process.env.PORT ?? ''}”: give it a number from 1 to 65535.`);

try {
  openDatabase(dataFolder()).close();
} catch (error) {
  if (error instanceof DataFolderError) stop(error.message);
  throw error;
}

if (process.env.LAST_DEV !== '1' && !existsSync('.next/BUILD_ID'))
  stop('The workbench is not built yet: run npm run build first, or npm run demo.');

/** The first port from this one on that nobody listens at. */
async function freePort(from: number): Promise<number> {
  for (let at = from; at < from + 20 && at < 65536; at++) {
    const taken = await new Promise<boolean>((resolve) => {
      const probe = createConnection({ port: at, host: '127.0.0.1' });
      probe.once('connect', () => (probe.destroy(), resolve(true)));
      probe.once('error', () => resolve(false));
    });
    if (!taken) return at;
  }
  return stop(`No port is free from ${from} on for the pages that the Bench shows: name one in LAST_PREVIEW_PORT.`);
}

const named = Number(process.env.LAST_PREVIEW_PORT ?? 0);
const previewPort = named || (await freePort(port + 1));
process.env.LAST_PORT = String(port);
process.env.LAST_PREVIEW_PORT = String(previewPort);

const hosts = ownHosts(port, (process.env.LAST_HOST ?? '').split(','));
const app = next({ dev: process.env.LAST_DEV === '1', hostname: bind, port });
const handle = app.getRequestHandler();

const previewHosts = ownHosts(previewPort, (process.env.LAST_HOST ?? '').split(','));

function answer(request: IncomingMessage, response: ServerResponse, preview: boolean): void {
  const { method = 'GET', headers, url = '/' } = request;
  delete headers[previewHeader];
  const refusal =
    gate({ method, headers }, preview ? previewHosts : hosts) ?? (preview ? previewGate(method, url) : null);
  if (refusal) {
    response.writeHead(refusal.status, { 'Content-Type': 'application/json; charset=utf-8', Connection: 'close' });
    response.end(JSON.stringify({ code: 'gate', message: refusal.message }));
    return;
  }
  if (preview) headers[previewHeader] = String(previewPort);
  request.url = soundAddress(url);
  void handle(request, response);
}

/**
 * An idle connection stays open for longer than who holds one waits to use it again, in milliseconds: a request that is sent
 * just as it is closed is lost, and only a browser sends it once more. Node.js closes after 5 seconds.
 */
const idle = { keepAliveTimeout: 75_000, headersTimeout: 80_000 };
const server = createServer(idle, (request, response) => answer(request, response, false));
const pages = createServer(idle, (request, response) => answer(request, response, true));

/** Longest time given to warming up, in milliseconds. */
const longestWarming = 4000;

/**
 * Asks for pages before anyone else does: what a large catalogue's listings are made of is read then, and the code that
 * serves is compiled, while nobody waits. `LAST_WARM=0` leaves it out.
 */
async function warm(): Promise<void> {
  if (process.env.LAST_WARM === '0') return;
  const host = bind === '0.0.0.0' ? '127.0.0.1' : bind.includes(':') ? `[${bind}]` : bind;
  const ask = async (path: string) => (await fetch(`http://${host}:${port}${path}`)).text();
  try {
    // Two at a time, so that each of the threads that make live pages has read what it needs.
    const [home = ''] = await Promise.all([ask('/live/'), ask('/live/listing/all')]);
    await Promise.all([ask('/live/listing/all?warm=a'), ask('/live/listing/all?warm=b')]);
    const product = /href="(\/live\/product\/[^"?]+)/.exec(home)?.[1] ?? '/live/';
    const until = Date.now() + longestWarming;
    for (let round = 0; round < 150 && Date.now() < until; round++) {
      await Promise.all(
        ['/live/', product, `${product}?warm=${round}`, `/live/listing/all?warm=${round}`, '/live/cart'].map(ask),
      );
    }
  } catch {
    // Nothing to warm: the first visitors wait instead.
  }
}

function failed(at: number, name: string) {
  return (error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE')
      stop(`Port ${at} is in use: stop what uses it, or start with another, as in ${name}=${at + 1} npm run demo.`);
    if (error.code === 'EACCES') stop(`Port ${at} may not be used by this account: choose one above 1023.`);
    stop(`The server cannot start: ${error.message}`);
  };
}
server.on('error', failed(port, 'PORT'));
pages.on('error', failed(previewPort, 'LAST_PREVIEW_PORT'));

await app.prepare();
pages.listen(previewPort, bind);
server.listen(port, bind, async () => {
  await warm();
  const at = `http://${bind.includes(':') ? `[${bind}]` : bind}:${port}`;
  process.stdout.write(
    `\nLast is ready.\n  The Bench       ${at}/bench\n  Alternates      ${at}/alternates\n  The shop, live  ${at}/live/\n`,
  );
});

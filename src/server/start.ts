import { existsSync } from 'node:fs';
import { createServer } from 'node:http';
import next from 'next';
import { DataFolderError, dataFolder, openDatabase } from '@/store/database';
import { gate, ownHosts, soundAddress } from './gate';

/** Starts the workbench: `PORT` (4170), on `LAST_BIND` (127.0.0.1), for the names in `LAST_HOST` besides its own. */
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

const hosts = ownHosts(port, (process.env.LAST_HOST ?? '').split(','));
const app = next({ dev: process.env.LAST_DEV === '1', hostname: bind, port });
const handle = app.getRequestHandler();

const server = createServer((request, response) => {
  const refusal = gate({ method: request.method ?? 'GET', headers: request.headers }, hosts);
  if (refusal) {
    response.writeHead(refusal.status, { 'Content-Type': 'application/json; charset=utf-8', Connection: 'close' });
    response.end(JSON.stringify({ code: 'gate', message: refusal.message }));
    return;
  }
  if (request.url) request.url = soundAddress(request.url);
  void handle(request, response);
});

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
    const home = await ask('/live/');
    await ask('/live/listing/all');
    const product = /href="(\/live\/product\/[^"?]+)/.exec(home)?.[1] ?? '/live/';
    const until = Date.now() + longestWarming;
    for (let round = 0; round < 150 && Date.now() < until; round++) {
      for (const path of [
        '/live/',
        product,
        `${product}?warm=${round}`,
        `/live/listing/all?warm=${round}`,
        '/live/cart',
      ])
        await ask(path);
    }
  } catch {
    // Nothing to warm: the first visitors wait instead.
  }
}

server.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EADDRINUSE')
    stop(`Port ${port} is in use: stop what uses it, or start with another, as in PORT=${port + 1} npm run demo.`);
  if (error.code === 'EACCES') stop(`Port ${port} may not be used by this account: choose one above 1023.`);
  stop(`The server cannot start: ${error.message}`);
});

server.listen(port, bind, async () => {
  await app.prepare();
  await warm();
  const at = `http://${bind.includes(':') ? `[${bind}]` : bind}:${port}`;
  process.stdout.write(
    `\nLast is ready.\n  The Bench       ${at}/bench\n  Alternates      ${at}/alternates\n  The shop, live  ${at}/live/\n`,
  );
});

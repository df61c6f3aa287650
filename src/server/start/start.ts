import { existsSync } from 'node:fs';
import { createServer, type RequestListener } from 'node:http';
import getPort, { portNumbers } from 'get-port';
import next from 'next';
import {
  Accounts,
  Carts,
  databaseFile,
  dataFolder,
  DataFolderError,
  faultOf,
  OrderHolds,
  openDatabase,
  noteNoChanges,
  takeFolder,
} from '@/store';
import { Door, Looks, People, providerFrom } from '@/server/accounts';
import { hearCommands } from '@/server/commands';
import { metricsOf, tellAnswers } from '@/server/figures';
import { answerHealth, counted, faultsOf, isHealth, watchListener } from '@/server/health';
import { fault, openLog, plainPath } from '@/server/log';
import { OrderSender } from '@/server/orders';
import { Addresses, isLoopback, openToken, setAddresses, setGuarded, setKnowing, setupFrom } from '@/server/http';
import { shop } from '@/server/shop';
import { cartDays, siteListener, togetherVariable } from '@/server/storefront';
import { callPath } from './call-path';
import { keepReleases } from './releases';
import { warm, warmWorkbench } from './warm';
import { workbenchListener } from './workbench';

/**
 * Starts Last. The workbench listens on `PORT` (4170), the shop and its drafts on `LAST_SITE_PORT` (the next that is free),
 * each by a host name of its own; on `LAST_BIND` (127.0.0.1). docs/running.md says which addresses there are.
 */
const port = Number(process.env.PORT ?? 4170);
const bind = process.env.LAST_BIND ?? '127.0.0.1';
const development = process.env.LAST_DEV === '1';

function stop(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(1);
}

if (!Number.isInteger(port) || port < 1 || port > 65535)
  stop(`PORT is “${process.env.PORT ?? ''}”: give it a number from 1 to 65535.`);

try {
  takeFolder(dataFolder(), 'the server');
  openDatabase(dataFolder()).close();
  const fault = faultOf(databaseFile(dataFolder()));
  if (fault) stop(`The database of ${dataFolder()} cannot be used: ${fault}. Restore a backup: last restore FILE.`);
} catch (error) {
  if (error instanceof DataFolderError) stop(error.message);
  throw error;
}

try {
  await openLog();
} catch (error) {
  stop(
    `The log ${process.env.LAST_LOG} cannot be written: ${(error as Error).message}. Name another file in LAST_LOG.`,
  );
}

if (!development && !existsSync('.next/BUILD_ID'))
  stop('The workbench is not built yet: run npm run build first, or npm run demo.');

/** The first port from this one on that nobody listens at. */
async function freePort(from: number, variable: string): Promise<number> {
  const last = Math.min(from + 19, 65_535);
  const port = from > last ? null : await getPort({ port: portNumbers(from, last) });
  if (port !== null && port >= from && port <= last) return port;
  return stop(`No port is free from ${from} on for pages of the shop: name one in ${variable}.`);
}

const sitePort = Number(process.env.LAST_SITE_PORT ?? 0) || (await freePort(port + 1, 'LAST_SITE_PORT'));
const draftPort = Number(process.env.LAST_DRAFT_PORT ?? 0) || (await freePort(sitePort + 1, 'LAST_DRAFT_PORT'));
const addresses = new Addresses(setupFrom(process.env, { port, sitePort, draftPort }));
setAddresses(addresses);
if (!addresses.apart) process.env[togetherVariable] = '1';
// On this machine alone there is one person; where others can come, they sign in.
const exposed = !isLoopback(bind) || addresses.setup.proxy;
const token = openToken(dataFolder());
function provider(): ReturnType<typeof providerFrom> {
  try {
    return providerFrom(process.env, process.env.LAST_OIDC_ORIGIN ?? addresses.workbenchFor(null));
  } catch (error) {
    return stop((error as Error).message);
  }
}
const door = exposed ? new Door(new People(shop().sql), { secure: addresses.setup.proxy, provider: provider() }) : null;
const looks = exposed ? new Looks(shop().sql, addresses) : null;
setGuarded(exposed);
setKnowing(door && ((headers) => door.knows(headers)));

const app = next({ dev: development, hostname: bind, port });
const handle = app.getRequestHandler();

/**
 * An idle connection stays open for longer than who holds one waits to use it again, in milliseconds: a request that is sent
 * just as it is closed is lost, and only a browser sends it once more. Node.js closes after 5 seconds. A request is to be
 * whole within a minute, however slowly it is sent.
 */
const times = { keepAliveTimeout: 75_000, headersTimeout: 60_000, requestTimeout: 60_000 };

function listen(at: number, variable: string, listener: RequestListener, on = bind): Promise<void> {
  const server = createServer(times, listener);
  server.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE')
      stop(`Port ${at} is in use: stop what uses it, or start with another, as in ${variable}=${at + 1} npm run demo.`);
    if (error.code === 'EACCES') stop(`Port ${at} may not be used by this account: choose one above 1023.`);
    stop(`The server cannot start: ${error.message}`);
  });
  return new Promise((resolve) => server.listen(at, on, resolve));
}

/** Carts that were left long ago are forgotten, and sessions, links and tokens that have ended, at start and each hour. */
function forgetOld(): void {
  try {
    new Carts(shop().sql).forgetOlder(cartDays, new Date());
    new Accounts(shop().sql).forgetEnded(new Date().toISOString());
  } catch (error) {
    fault(`What is over could not be forgotten: ${(error as Error).message}`);
  }
}

const sender = new OrderSender(shop().sql);
/** Orders are told to whom an owner named, a moment after they are made. */
async function tellOrders(): Promise<void> {
  try {
    await sender.round();
    const holds = new OrderHolds(shop().sql);
    const old = holds.old(new Date().toISOString());
    if (old.length) shop().themes.transaction(() => old.forEach((number) => holds.letGo(number, true)));
  } catch (error) {
    fault(`Orders could not be told: ${(error as Error).message}`);
  }
  setTimeout(() => void tellOrders(), 1000).unref();
}

const warmed = warm(shop());
await app.prepare();
hearCommands(shop, dataFolder());
const metrics = metricsOf(shop);
tellAnswers(metrics.answers);
const faults = () => faultsOf(shop(), dataFolder());
/** Health is asked by whoever watches, by any name; the rest is answered and counted. */
const watched = (part: string, listener: RequestListener, pathOf = plainPath): RequestListener => {
  const answering = counted(part, metrics.answers, listener, pathOf);
  return (request, response) => {
    const path = request.url ?? '';
    if (isHealth(path)) answerHealth(response, path, faults);
    else answering(request, response);
  };
};
await listen(sitePort, 'LAST_SITE_PORT', watched('shop', siteListener(shop, addresses, { lock: looks })));
if (!addresses.apart)
  await listen(
    draftPort,
    'LAST_DRAFT_PORT',
    watched('drafts', siteListener(shop, addresses, { together: true, lock: looks })),
  );
await listen(
  port,
  'PORT',
  watched('workbench', workbenchListener(handle, { addresses, token, development, door, looks }), callPath),
);
const metricsPort = Number(process.env.LAST_METRICS_PORT ?? 0);
if (metricsPort) {
  const { registry } = metrics;
  const text = async () => ({ type: registry.contentType, text: await registry.metrics() });
  // For this machine alone: figures say more of a shop than visitors should know.
  await listen(
    metricsPort,
    'LAST_METRICS_PORT',
    watchListener(text, faults),
    process.env.LAST_METRICS_BIND ?? '127.0.0.1',
  );
}
await warmed;
void tellOrders();
forgetOld();
setInterval(forgetOld, 3_600_000).unref();
if (process.env.LAST_RELEASES)
  keepReleases(dataFolder(), process.env.LAST_RELEASES, (line) => process.stdout.write(`${line}\n`));
else noteNoChanges(shop().sql);

const at = `http://${bind.includes(':') ? `[${bind}]` : bind}:${port}`;
const lines = [
  '',
  'Last is ready.',
  `  The Bench       ${at}/bench`,
  `  Alternates      ${at}/alternates`,
  `  The shop, live  ${addresses.shop}/`,
  ...(door?.firstRun.isDue
    ? [
        '',
        '  Nobody has an account yet. Open the Bench, and make the first owner with this code:',
        `    ${door.firstRun.code}`,
      ]
    : []),
  ...(addresses.apart
    ? []
    : [
        '  Shop and drafts have no host names of their own here, so that browsers let them share cookies: name them in',
        '  LAST_SHOP_HOST and LAST_DRAFT_HOST (docs/running.md).',
      ]),
];
process.stdout.write(`${lines.join('\n')}\n`);
void warmWorkbench(shop(), at);

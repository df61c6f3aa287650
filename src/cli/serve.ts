import { createServer, type RequestListener } from 'node:http';
import { availableParallelism } from 'node:os';
import { join, resolve } from 'node:path';
import { faultsOf, watchListener } from '@/server/health';
import { openLog } from '@/server/log';
import { Following, inProcesses, isOneOfSeveral, type Node, serveRelease, tellReady } from '@/server/node';
import { said, type Say } from './said';

interface ServeOptions {
  port: string;
  bind: string;
  host: string;
  data: string;
  proxy?: boolean;
  origin?: string;
  processes?: string;
  metrics?: string;
  tell?: string;
}

/** A whole number of an option; a sentence that says what it takes otherwise. */
function numberOf(text: string, what: string, most: number): number {
  const number = Number(text);
  if (!Number.isInteger(number) || number < 1 || number > most)
    throw new RangeError(`“${text}” is no ${what}: give a number from 1 to ${most}.`);
  return number;
}

/** `last serve`: the shop of a release file, until it is told to end. */
export async function serveCommand(file: string, options: ServeOptions, say: Say, complain: Say): Promise<number> {
  try {
    return await said(complain, () => serve(file, options, say));
  } finally {
    // As long as it can be told something, a process does not end.
    if (isOneOfSeveral()) process.disconnect();
  }
}

/** How often the other side is asked what is in force, in milliseconds. */
const askEvery = 1000;

/** Keeps a folder of release files here in step with one elsewhere. While that does not answer, what is here is served. */
async function follow(following: Following, say: Say): Promise<void> {
  let said = '';
  const look = async (): Promise<void> => {
    try {
      await following.look();
      said = '';
    } catch (error) {
      const { message } = error as Error;
      if (message !== said) say((said = message));
    }
    setTimeout(() => void look(), askEvery).unref();
  };
  await look();
}

/** Listens for who watches, as long as the program runs. For this machine alone: figures say more of a shop than visitors should know. */
async function listen(port: number, listener: RequestListener): Promise<void> {
  const server = createServer(listener).unref();
  const bind = process.env.LAST_METRICS_BIND ?? '127.0.0.1';
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(port, bind, resolve));
}

async function serve(asked: string, options: ServeOptions, say: Say): Promise<number | void> {
  const isElsewhere = /^https?:\/\//.test(asked);
  const file = isElsewhere ? join(options.data, 'releases') : asked;
  // Only the first of several processes fetches; the others read its folder.
  if (isElsewhere && !isOneOfSeveral()) await follow(new Following(asked, resolve(file)), say);
  const port = numberOf(options.port, 'port', 65_535);
  const processes =
    options.processes === undefined ? availableParallelism() : numberOf(options.processes, 'number of processes', 256);
  // The code for figures is loaded only where they are asked for.
  const figures = options.metrics === undefined ? null : await import('@/server/figures');
  const metricsPort = figures && numberOf(options.metrics ?? '', 'port', 65_535);
  if (processes > 1 && !isOneOfSeveral()) {
    if (figures && metricsPort)
      await listen(
        metricsPort,
        watchListener(figures.figuresOfAll(), () => []),
      );
    const at = `http://${options.bind}:${port}`;
    return inProcesses(processes, () => say(`Serving on ${at} with ${processes} processes`));
  }
  await openLog().catch((error: Error) => {
    throw new RangeError(`The log ${process.env.LAST_LOG} cannot be written: ${error.message}. Name another file.`);
  });
  const own = figures?.metricsOf(() => node.shop(), { isNode: true }) ?? null;
  const node: Node = await serveRelease({
    ...{ file: resolve(file), folder: resolve(options.data), port, bind: options.bind, hosts: options.host },
    ...{ proxy: options.proxy ?? false, origin: options.origin, answers: own?.answers ?? null, say },
    tell: (options.tell ?? '').split(',').flatMap((one) => one.trim() || []),
  }).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE') throw new RangeError(`Port ${port} is in use: choose another with --port.`);
    if (error.code === 'EACCES')
      throw new RangeError(`Port ${port} may not be used by this account: choose one above 1023.`);
    throw error;
  });
  if (own && isOneOfSeveral()) figures?.tellFigures(own.registry);
  else if (own && metricsPort) {
    const { registry } = own;
    const text = async () => ({ type: registry.contentType, text: await registry.metrics() });
    await listen(
      metricsPort,
      watchListener(text, () => faultsOf(node.shop(), resolve(options.data))),
    );
  }
  if (isOneOfSeveral()) tellReady();
  else say(`Serving ${node.file()} on http://${options.bind}:${node.port}`);
  await new Promise<void>((resolveEnd) => {
    for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => resolveEnd());
  });
  await node.close();
}

import { join, resolve } from 'node:path';
import { availableParallelism } from 'node:os';
import { Following, inProcesses, isOneOfSeveral, serveRelease, tellReady } from '@/server/node';
import { said, type Say } from './said';

interface ServeOptions {
  port: string;
  bind: string;
  host: string;
  data: string;
  proxy?: boolean;
  origin?: string;
  processes?: string;
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

async function serve(asked: string, options: ServeOptions, say: Say): Promise<number | void> {
  const isElsewhere = /^https?:\/\//.test(asked);
  const file = isElsewhere ? join(options.data, 'releases') : asked;
  // Only the first of several processes fetches; the others read its folder.
  if (isElsewhere && !isOneOfSeveral()) await follow(new Following(asked, resolve(file)), say);
  const port = numberOf(options.port, 'port', 65_535);
  const processes =
    options.processes === undefined ? availableParallelism() : numberOf(options.processes, 'number of processes', 256);
  if (processes > 1 && !isOneOfSeveral()) {
    const at = `http://${options.bind}:${port}`;
    return inProcesses(processes, () => say(`Serving on ${at} with ${processes} processes`));
  }
  const node = await serveRelease({
    ...{ file: resolve(file), folder: resolve(options.data), port, bind: options.bind, hosts: options.host },
    ...{ proxy: options.proxy ?? false, origin: options.origin, say },
  }).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE') throw new RangeError(`Port ${port} is in use: choose another with --port.`);
    if (error.code === 'EACCES')
      throw new RangeError(`Port ${port} may not be used by this account: choose one above 1023.`);
    throw error;
  });
  if (isOneOfSeveral()) tellReady();
  else say(`Serving ${node.file()} on http://${options.bind}:${node.port}`);
  await new Promise<void>((resolveEnd) => {
    for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => resolveEnd());
  });
  await node.close();
}

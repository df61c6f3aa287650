import { resolve } from 'node:path';
import { serveRelease } from '@/server/node';
import { said, type Say } from './on-shop';

interface ServeOptions {
  port: string;
  bind: string;
  host: string;
  data: string;
  proxy?: boolean;
}

/** `last serve`: the shop of a release file, until it is told to end. */
export function serveCommand(file: string, options: ServeOptions, say: Say, complain: Say): Promise<number> {
  return said(complain, async () => {
    const port = Number(options.port);
    if (!Number.isInteger(port) || port < 1 || port > 65_535)
      throw new RangeError(`“${options.port}” is no port: give a number from 1 to 65535.`);
    const node = await serveRelease({
      ...{ file: resolve(file), folder: resolve(options.data), port, bind: options.bind, hosts: options.host },
      ...{ proxy: options.proxy ?? false, threads: true, say },
    }).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE') throw new RangeError(`Port ${port} is in use: choose another with --port.`);
      if (error.code === 'EACCES')
        throw new RangeError(`Port ${port} may not be used by this account: choose one above 1023.`);
      throw error;
    });
    say(`Serving ${node.file()} on http://${options.bind}:${node.port}`);
    await new Promise<void>((resolveEnd) => {
      for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => resolveEnd());
    });
    await node.close();
  });
}

import { resolve } from 'node:path';
import { makeSite } from '@/server/site';
import { said, type Say } from './said';

interface SiteOptions {
  out: string;
  host: string;
  node?: string;
  port: string;
}

/** `last site`: the shop of a release file as files that any web server serves. */
export function siteCommand(file: string, options: SiteOptions, say: Say, complain: Say): Promise<number> {
  return said(complain, async () => {
    const { host, node = null } = options;
    if (!/^[\w.-]+$/.test(host)) throw new RangeError(`“${host}” is no name of a shop: it is like shop.example.org.`);
    if (node !== null && !/^[\w.[\]:-]+:\d{1,5}$/.test(node))
      throw new RangeError(`“${node}” is no address of a node: it is like 127.0.0.1:4180.`);
    if (!/^\d{1,5}$/.test(options.port)) throw new RangeError(`“${options.port}” is no port.`);
    const out = resolve(options.out);
    const made = await makeSite({ file: resolve(file), out, host, node, port: Number(options.port) });
    for (const fault of made.faults) complain(fault);
    const { pages, made: again, written, bytes, removed } = made;
    say(
      `${pages} pages, ${again} of them made; ${written} files written (${(bytes / 1e6).toFixed(1)} MB), ${removed} removed.`,
    );
    say(`The site is in ${out}/public; nginx serves it with ${out}/site.conf.`);
    return made.faults.length ? 1 : 0;
  });
}

import { frontConfig, type Front } from '@/server/node';
import { said, type Say } from './said';

interface FrontOptions {
  node: string;
  host: string;
  port: string;
  cache: string;
  groups?: boolean;
  certificate?: string;
  key?: string;
}

const listed = (text: string): string[] =>
  text
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);

/** `last front`: the configuration of a server that stands before render nodes. */
export function frontCommand(front: Front, options: FrontOptions, say: Say, complain: Say): Promise<number> {
  return said(complain, async () => {
    const nodes = listed(options.node);
    const wrong = nodes.find((node) => !/^(?:\[[\da-f:]+\]|[\w.-]+):\d{1,5}$/i.test(node));
    if (wrong !== undefined || !nodes.length)
      throw new RangeError(`“${wrong ?? options.node}” is no address of a node: it is like 127.0.0.1:4180.`);
    const names = listed(options.host);
    const noName = names.find((name) => !/^[\w.-]+$/.test(name));
    if (noName !== undefined) throw new RangeError(`“${noName}” is no name of a shop: it is like shop.example.org.`);
    if (!/^\d{1,5}$/.test(options.port)) throw new RangeError(`“${options.port}” is no port.`);
    const { certificate, key } = options;
    if ((certificate === undefined) !== (key === undefined))
      throw new RangeError('HTTPS takes both --certificate and --key.');
    const paths = [options.cache, certificate ?? '', key ?? ''];
    if (paths.some((path) => /[\s;{}"']/.test(path)))
      throw new RangeError('A path here holds neither blanks, quotes, braces nor semicolons.');
    const tls = certificate !== undefined && key !== undefined ? { certificate, key } : null;
    if (options.groups && front === 'nginx')
      throw new RangeError('nginx asks nodes for each page again: only Varnish is told what has changed (--groups).');
    const { cache, groups = false } = options;
    const setup = { nodes, names, port: Number(options.port), cache, groups, tls };
    await Promise.resolve(say(frontConfig(front, setup).trimEnd()));
  });
}

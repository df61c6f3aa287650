import { endpoints } from '@/contract/endpoints';

/** Parts of the API's addresses that are the same in each; others name accounts, orders, drafts. */
const fixed = new Set(
  Object.values(endpoints).flatMap((table) => Object.values(table).flatMap((one) => one.path.split('/'))),
);
const maxLength = 200;

/** The path of an address without what may be about a person: no query, no names in the API's addresses, nothing like an address of e-mail. */
export function plainPath(url: string): string {
  const end = url.search(/[?#]/);
  const path = end < 0 ? url : url.slice(0, end);
  if (path.startsWith('/api/'))
    return path
      .split('/')
      .map((part) => (fixed.has(part) ? part : '*'))
      .join('/')
      .slice(0, maxLength);
  const short = path.slice(0, maxLength);
  return /@|%40/.test(path) ? short.replace(/[^/]*(?:@|%40)[^/]*/g, '*') : short;
}

import { endpoints } from '@/contract/endpoints';
import { plainPath } from '@/server/log';

/** Parts of the calls' addresses that are always the same; others name accounts, orders, drafts. */
const fixed = new Set(
  Object.values(endpoints).flatMap((table) => Object.values(table).flatMap((one) => one.path.split('/'))),
);

/** The path of one of the workbench's addresses without what may be about a person: in those of its calls no names either. */
export function callPath(url: string): string {
  const path = plainPath(url);
  if (!path.startsWith('/api/')) return path;
  return path
    .split('/')
    .map((part) => (fixed.has(part) ? part : '*'))
    .join('/');
}

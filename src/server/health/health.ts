import { statfsSync } from 'node:fs';
import type { ServerResponse } from 'node:http';
import type { Shop } from '@/server/shop';

/** Less than this is left on a disk that soon is full, in bytes. */
const leastFree = 50_000_000;

/** `/healthz`: the process answers. `/readyz`: what it is asked for can be answered too. */
export const healthPaths = ['/healthz', '/readyz'] as const;
export const isHealth = (path: string): path is (typeof healthPaths)[number] =>
  (healthPaths as readonly string[]).includes(path);

/**
 * What keeps a shop from being served or changed, each as a sentence that says what to do; none where all is well.
 *
 * @param folder where it writes: its data folder, or a render node's own
 */
export function faultsOf(shop: Shop, folder: string, free = freeBytes): string[] {
  const faults: string[] = [];
  const attempt = (work: () => string | null): void => {
    try {
      const fault = work();
      if (fault) faults.push(fault);
    } catch (error) {
      faults.push((error as Error).message);
    }
  };
  attempt(() => {
    shop.sql.watch?.check();
    return shop.themes.live() ? null : 'Nothing is live: publish a draft.';
  });
  attempt(() => {
    const left = free(folder);
    return left < leastFree
      ? `Only ${Math.floor(left / 1e6)} MB are left on the disk of ${folder}: make room, or nothing can be saved soon.`
      : null;
  });
  return faults;
}

function freeBytes(folder: string): number {
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize;
}

/** Answers one of these paths. What is wrong is for who runs the shop: others are told only that something is. */
export function answerHealth(
  response: ServerResponse,
  path: (typeof healthPaths)[number],
  faults: () => string[],
): void {
  const isWell = path === '/healthz' || !faults().length;
  response.writeHead(isWell ? 200 : 503, { 'Content-Type': 'text/plain; charset=utf-8', 'Cache-Control': 'no-store' });
  response.end(isWell ? 'ok\n' : 'not ready\n');
}
